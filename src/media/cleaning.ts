import { spokenLoudness, takeSpeech } from '@/core/measure/takeVoice'
import { createHash } from 'node:crypto'
import { open, readFile, rm, writeFile, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import { writeAnalysis } from '@/core/formats/analysis'
import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import { quietStretches } from '@/core/measure/quiet'
import { cleanVoice, cleanWhole } from '@/core/narration/cleanUp/chain'
import type { CleanUp } from '@/core/narration/cleanUp/settings'
import { noiseSpectrum, type NoiseSpectrum } from '@/core/narration/cleanUp/spectral'
import { createSuppressor, type Suppressor } from '@/core/narration/cleanUp/suppressor'
import { HOUSE_RATE, toSamples, type Seconds } from '@/core/units'
import { bytesOf, interleave } from './ffmpeg'
import { readWhole, writeWhole } from './store/files'
import { projectFolder } from './settings'
import { PARTS, storeSource, type MediaStore } from './store/store'

/** Raised when the same settings come to sound otherwise. */
const EDITION = 4

/** Where the room's noise is heard: a recording of it, a part of the take, or wherever the take is quiet. */
export type RoomNoise = { media: string } | { from: Seconds; to: Seconds } | null

/** Under which a cleaned take is kept as media of its own. */
export const cleanedKey = (media: string, cleanUp: CleanUp, room: RoomNoise): string =>
  createHash('sha256')
    .update(JSON.stringify(['clean', EDITION, media, cleanUp, room]))
    .digest('hex')

/**
 * Cleans a take and keeps the result as media of its own, as long as the take. Returns its key; what was cleaned in
 * the same way before is not cleaned again.
 */
export async function cleanMedia(
  store: MediaStore,
  media: string,
  cleanUp: CleanUp,
  room: RoomNoise,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void } = {},
): Promise<string> {
  const key = cleanedKey(media, cleanUp, room)
  if (await store.has(key)) return key
  const [info, analysis] = [await store.info(media), await store.analysis(media)]
  if (!analysis) throw new Error(`${media} has no sound to clean`)
  const draft = await store.draft()
  const sounds = storeSource(store)
  try {
    const facts = {
      level: speechLevel(analysis),
      room: await roomSpectrum(store, media, analysis, room),
      hum: info.hum,
    }
    const suppress = await loadSuppressor()
    const cleaned = await Promise.all(
      Array.from({ length: analysis.channels }, (_, c) => join(draft.folder, `channel-${c}`)).map((path) =>
        open(path, 'w+'),
      ),
    )
    for (const [c, file] of cleaned.entries()) {
      const read = async (from: number, frames: number) => (await sounds.source(media, from, frames))[c]!
      let done = 0
      await cleanWhole(
        analysis.samples,
        read,
        (samples) => {
          signal?.throwIfAborted()
          return cleanVoice(samples, cleanUp, facts, suppress)
        },
        async (samples) => {
          await writeWhole(file, bytesOf(samples))
          done += samples.length
          onProgress?.((c + done / analysis.samples) / analysis.channels)
        },
      )
    }
    await finish(cleaned, analysis, draft.folder)
    await writeFile(join(draft.folder, PARTS.info), JSON.stringify({ ...info, hash: key }))
    await draft.keep(key, room && 'media' in room ? [media, room.media] : [media])
    return key
  } catch (error) {
    await draft.drop()
    throw error
  } finally {
    await sounds.close()
  }
}

/** Lays the channels side by side and analyses them. */
async function finish(files: readonly FileHandle[], { samples, channels }: Analysis, folder: string): Promise<void> {
  const analyser = createAnalyser(channels)
  const sound = await open(join(folder, PARTS.sound), 'w')
  const block = 10 * HOUSE_RATE
  for (let at = 0; at < samples; at += block) {
    const frames = Math.min(block, samples - at)
    const parts = await Promise.all(
      files.map(async (file) => {
        const part = new Float32Array(frames)
        await readWhole(file, new Uint8Array(part.buffer), at * 4)
        return part
      }),
    )
    analyser.push(parts)
    await writeWhole(sound, bytesOf(channels === 1 ? parts[0]! : interleave(parts)))
  }
  await sound.close()
  for (const [c, file] of files.entries()) {
    await file.close()
    await rm(join(folder, `channel-${c}`))
  }
  await writeFile(join(folder, PARTS.analysis), writeAnalysis(analyser.finish()))
}

/** Loudness of the speech, less the 3 dB by which a mono sound is louder from two sides. */
function speechLevel(analysis: Analysis): number {
  return (spokenLoudness(analysis.energy, takeSpeech(analysis)) ?? -23) - 3
}

async function roomSpectrum(
  store: MediaStore,
  media: string,
  analysis: Analysis,
  room: RoomNoise,
): Promise<NoiseSpectrum | null> {
  const stretches = await roomStretches(store, analysis, room)
  const sounds = storeSource(store)
  try {
    const source = room && 'media' in room ? room.media : media
    const parts = await Promise.all(
      stretches.map(async ({ from, to }) => (await sounds.source(source, toSamples(from), toSamples(to - from)))[0]!),
    )
    return noiseSpectrum(parts)
  } finally {
    await sounds.close()
  }
}

async function roomStretches(store: MediaStore, analysis: Analysis, room: RoomNoise) {
  if (!room) return quietStretches(analysis)
  if ('from' in room) return [room]
  const noise = await store.analysis(room.media)
  return noise ? quietStretches(noise) : quietStretches(analysis)
}

let loaded: Promise<WebAssembly.Module> | undefined
/** The compiled suppressor is shared; each caller gets its own instance. */
export async function loadSuppressor(): Promise<Suppressor> {
  const path = join(projectFolder(), 'node_modules', '@shiguredo', 'rnnoise-wasm', 'dist', 'rnnoise_simd.wasm')
  loaded ??= readFile(path).then((bytes) => WebAssembly.compile(bytes))
  // A first failure is not the last word.
  loaded.catch(() => (loaded = undefined))
  return createSuppressor(await loaded)
}
