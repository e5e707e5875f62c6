import { PassThrough } from 'node:stream'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import { HOUSE_RATE, toSamples, type Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { runProgram, writeTo } from '../process'
import { storeSource, type MediaStore } from '../store/store'

const BLOCK = 10 * HOUSE_RATE

/** A part of a sound in the store as a WAV or FLAC file, 24 bit, written as it is read. */
export async function exportSound(
  store: MediaStore,
  media: string,
  part: { from: Seconds; to: Seconds },
  format: 'wav' | 'flac',
): Promise<AsyncGenerator<Uint8Array>> {
  const { channels, length } = await store.info(media)
  const from = toSamples(part.from)
  const frames = toSamples(Math.min(part.to, length ?? 0)) - from
  if (frames <= 0) throw new UserError(say('imports.thereIsNoSound'))
  const wav = wavBytes(store, media, channels, from, frames)
  return format === 'wav' ? wav : toFlac(wav)
}

async function* wavBytes(store: MediaStore, media: string, channels: number, from: number, frames: number) {
  const sounds = storeSource(store)
  try {
    yield writeWavHeader(channels, HOUSE_RATE, frames)
    for (let at = 0; at < frames; at += BLOCK)
      yield encodeSamples(await sounds.source(media, from + at, Math.min(BLOCK, frames - at)))
  } finally {
    await sounds.close()
  }
}

/** Codes a WAV file as FLAC while it is made, and hands it on piece by piece. */
export async function* toFlac(wav: AsyncGenerator<Uint8Array>): AsyncGenerator<Uint8Array> {
  const args = [
    '-v',
    'error',
    '-f',
    'wav',
    '-i',
    'pipe:0',
    '-c:a',
    'flac',
    '-sample_fmt',
    's32',
    '-f',
    'flac',
    'pipe:1',
  ]
  const pieces = new PassThrough()
  const gone = new AbortController()
  runProgram('ffmpeg', args, {
    limit: 1800,
    signal: gone.signal,
    onOutput: (chunk) => writeTo(pieces, chunk),
    feed: async (input) => {
      for await (const bytes of wav) await writeTo(input, bytes)
    },
  }).then(
    () => pieces.end(),
    (error: Error) => pieces.destroy(error),
  )
  try {
    yield* pieces
  } finally {
    gone.abort()
  }
}
