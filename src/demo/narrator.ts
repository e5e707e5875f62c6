import { readWav } from '@/core/formats/wav'
import { runProgram } from '@/media/process'
import { HOUSE_RATE, type Seconds } from '@/core/units'

/** A reading of several parts, and where each part's words begin and end in it. */
export interface Reading {
  samples: Float32Array
  parts: { from: Seconds; to: Seconds }[]
}

/** Has the parts read by the synthesiser, with `pause` seconds between them and a little room before the first. */
export async function readAloud(parts: readonly string[], pause: Seconds): Promise<Reading> {
  const pieces: Float32Array[] = [new Float32Array(Math.round(0.8 * HOUSE_RATE))]
  const spans: Reading['parts'] = []
  let at = pieces[0]!.length
  for (const words of parts) {
    const spoken = trimmed(await speak(words))
    spans.push({ from: at / HOUSE_RATE, to: (at + spoken.length) / HOUSE_RATE })
    const silence = new Float32Array(Math.round(pause * HOUSE_RATE))
    pieces.push(spoken, silence)
    at += spoken.length + silence.length
  }
  return { samples: withRoom(joined(pieces)), parts: spans }
}

async function speak(words: string): Promise<Float32Array> {
  const wav = await runProgram('espeak-ng', ['-v', 'en-gb', '-s', '126', '-p', '42', '--stdout', words], { limit: 120 })
  const { channels, rate } = readWav(wav)
  return resampled(channels[0]!, rate)
}

async function resampled(samples: Float32Array, rate: number): Promise<Float32Array> {
  const bytes = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
  const args = [
    '-v',
    'error',
    '-f',
    'f32le',
    '-ar',
    String(rate),
    '-ac',
    '1',
    '-i',
    'pipe:0',
    '-ar',
    String(HOUSE_RATE),
    '-f',
    'f32le',
    'pipe:1',
  ]
  const out = await runProgram('ffmpeg', args, { limit: 120, feed: async (input) => void input.write(bytes) })
  return new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength))
}

function trimmed(samples: Float32Array): Float32Array {
  const loud = (value: number) => Math.abs(value) > 0.004
  return samples.slice(Math.max(0, samples.findIndex(loud)), samples.findLastIndex(loud) + 1)
}

export function joined(pieces: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
  let at = 0
  for (const piece of pieces) {
    out.set(piece, at)
    at += piece.length
  }
  return out
}

/** The faint noise of a quiet room, so that the pauses are not dead. */
function withRoom(samples: Float32Array): Float32Array {
  let state = 1
  let low = 0
  return samples.map((value) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    low += 0.1 * (state / 2147483648 - 1 - low)
    return value * 0.8 + low * 0.0012
  })
}
