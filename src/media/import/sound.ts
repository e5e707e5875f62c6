import { open, rename, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import { writeAnalysis } from '@/core/formats/analysis'
import { LIMITS } from '@/core/lesson/limits'
import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import type { Hum } from '@/core/measure/hum'
import { createSidesMeter, mended, type SidesFault } from '@/core/measure/sides'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { bytesOf, decodeSound, deinterleave, tooLong, type Probe } from '../ffmpeg'
import { writeWhole } from '../store/files'
import { PARTS } from '../store/store'
import { humOf } from './humOf'

export interface SoundOptions {
  signal?: AbortSignal
  /** Whether channels stay as they are in the file, whatever is wrong with them. */
  keepSides?: boolean
  onProgress?: (share: number) => void
}

export interface ImportedSound {
  analysis: Analysis
  /** Samples that were no numbers, or beyond all measure; they are silent now. */
  silenced: number
  /** What was wrong with its two channels, which are one now. */
  sides: SidesFault | null
  hum: Hum | null
}

/**
 * Decodes a file's sound into the house format and analyses it on the way. What is on one side only, or upside down on one, is
 * put into the middle unless `keepSides`.
 */
export async function importSound(
  path: string,
  demuxer: string,
  name: string,
  probe: Probe,
  folder: string,
  { signal, keepSides, onProgress }: SoundOptions,
): Promise<ImportedSound> {
  const channels = Math.min(2, probe.sound!.channels)
  const analyser = createAnalyser(channels)
  const file = await open(join(folder, PARTS.sound), 'w')
  const sides = createSidesMeter()
  let frames = 0
  let silenced = 0
  try {
    await decodeSound(
      path,
      demuxer,
      name,
      { rate: HOUSE_RATE, channels, index: probe.sound!.index },
      async (samples) => {
        frames += samples.length / channels
        if (frames > LIMITS.length * HOUSE_RATE) throw tooLong(name)
        silenced += silenceAbsurd(samples)
        const apart = deinterleave(samples, channels)
        analyser.push(apart)
        if (channels === 2) sides.push(apart[0]!, apart[1]!)
        await writeWhole(file, bytesOf(samples))
        if (probe.length) onProgress?.(Math.min(1, frames / HOUSE_RATE / probe.length))
      },
      { signal },
    )
    await file.sync()
  } finally {
    await file.close()
  }
  const fault = keepSides ? null : sides.fault()
  const analysis = fault ? await putInTheMiddle(join(folder, PARTS.sound), fault) : analyser.finish()
  const kept = await open(join(folder, PARTS.analysis), 'w')
  try {
    await writeWhole(kept, writeAnalysis(analysis))
    await kept.sync()
  } finally {
    await kept.close()
  }
  return { analysis, silenced, sides: fault, hum: await humOf(join(folder, PARTS.sound), analysis) }
}

const BLOCK = HOUSE_RATE * 10

/** Makes one channel of a sound's two, in the file itself; returns its analysis. */
async function putInTheMiddle(path: string, fault: SidesFault): Promise<Analysis> {
  const analyser = createAnalyser(1)
  const [from, to] = [await open(path, 'r'), await open(`${path}.one`, 'w')]
  try {
    for await (const samples of stereoBlocks(from)) {
      const [left, right] = deinterleave(samples, 2)
      const middle = mended(fault, left!, right!)
      analyser.push([middle])
      await writeWhole(to, bytesOf(middle))
    }
    await to.sync()
  } finally {
    await from.close()
    await to.close()
  }
  await rename(`${path}.one`, path)
  return analyser.finish()
}

async function* stereoBlocks(file: FileHandle): AsyncGenerator<Float32Array> {
  const { size } = await file.stat()
  for (let at = 0; at < size;) {
    const block = new Float32Array(Math.min(2 * BLOCK, (size - at) / 4))
    const { bytesRead } = await file.read(bytesOf(block), 0, block.byteLength, at)
    if (bytesRead === 0) throw new Error('a decoded sound ended early')
    yield block.subarray(0, bytesRead / 4)
    at += bytesRead
  }
}

/** 36 dB over full scale: no microphone, mixer or codec makes that. */
const ABSURD = 64

/** Makes samples silent that are no numbers or beyond all measure; returns how many there were. */
export function silenceAbsurd(samples: Float32Array): number {
  let count = 0
  for (let i = 0; i < samples.length; i++) {
    // Also false for what is not a number.
    if (Math.abs(samples[i]!) <= ABSURD) continue
    samples[i] = 0
    count++
  }
  return count
}

/** What the author should know of damaged samples. */
export const silencedNote = (count: number): string | null =>
  count === 0 ? null : say('imports.samplesDamaged', { count })

/** Says so where much less sound was found than the file promises: it was probably cut off in copying. */
export function cutOffNote(promised: Seconds | null, found: Seconds): string | null {
  if (promised === null || promised - found < Math.max(0.5, promised * 0.02)) return null
  return say('imports.cutOff', { promised: clock(promised), found: clock(found) })
}

const clock = (time: Seconds) => `${Math.floor(time / 60)}:${String(Math.floor(time % 60)).padStart(2, '0')}`
