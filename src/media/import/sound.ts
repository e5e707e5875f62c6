import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { writeAnalysis } from '@/core/formats/analysis'
import { LIMITS } from '@/core/lesson/limits'
import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { bytesOf, decodeSound, deinterleave, tooLong, type Probe } from '../ffmpeg'
import { writeWhole } from '../store/files'
import { PARTS } from '../store/store'

export interface ImportedSound {
  analysis: Analysis
  /** Samples that were no numbers, or beyond all measure; they are silent now. */
  silenced: number
}

/** Decodes a file's sound into the house format and analyses it on the way. */
export async function importSound(
  path: string,
  demuxer: string,
  name: string,
  probe: Probe,
  folder: string,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<ImportedSound> {
  const channels = Math.min(2, probe.sound!.channels)
  const analyser = createAnalyser(channels)
  const file = await open(join(folder, PARTS.sound), 'w')
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
        analyser.push(deinterleave(samples, channels))
        await writeWhole(file, bytesOf(samples))
        if (probe.length) onProgress?.(Math.min(1, frames / HOUSE_RATE / probe.length))
      },
      { signal },
    )
    await file.sync()
  } finally {
    await file.close()
  }
  const analysis = analyser.finish()
  const kept = await open(join(folder, PARTS.analysis), 'w')
  try {
    await writeWhole(kept, writeAnalysis(analysis))
    await kept.sync()
  } finally {
    await kept.close()
  }
  return { analysis, silenced }
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
  count === 0
    ? null
    : `${count.toLocaleString('en')} ${count === 1 ? 'sample of this file is' : 'samples of this file are'} damaged and silent now. Listen to it, or save it again where it was made.`

/** Says so where much less sound was found than the file promises: it was probably cut off in copying. */
export function cutOffNote(promised: Seconds | null, found: Seconds): string | null {
  if (promised === null || promised - found < Math.max(0.5, promised * 0.02)) return null
  return `This file is cut off: it should have ${clock(promised)}, and ${clock(found)} of it is there.`
}

const clock = (time: Seconds) => `${Math.floor(time / 60)}:${String(Math.floor(time % 60)).padStart(2, '0')}`
