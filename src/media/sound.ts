import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { writeAnalysis } from '@/core/formats/analysis'
import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { bytesOf, decodeSound, deinterleave, type Probe } from './ffmpeg'
import { PARTS } from './store'

/** Decodes a file's sound into the house format and analyses it on the way. */
export async function importSound(
  path: string,
  demuxer: string,
  name: string,
  probe: Probe,
  folder: string,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<Analysis> {
  const channels = Math.min(2, probe.sound!.channels)
  const analyser = createAnalyser(channels)
  const file = await open(join(folder, PARTS.sound), 'w')
  let frames = 0
  try {
    await decodeSound(
      path,
      demuxer,
      name,
      { rate: HOUSE_RATE, channels },
      async (samples) => {
        analyser.push(deinterleave(samples, channels))
        await file.write(bytesOf(samples))
        frames += samples.length / channels
        if (probe.length) onProgress?.(Math.min(1, frames / HOUSE_RATE / probe.length))
      },
      { signal },
    )
  } finally {
    await file.close()
  }
  const analysis = analyser.finish()
  const kept = await open(join(folder, PARTS.analysis), 'w')
  await kept.write(writeAnalysis(analysis))
  await kept.close()
  return analysis
}

/** Says so where much less sound was found than the file promises: it was probably cut off in copying. */
export function cutOffNote(promised: Seconds | null, found: Seconds): string | null {
  if (promised === null || promised - found < Math.max(0.5, promised * 0.02)) return null
  return `This file is cut off: it should have ${clock(promised)}, and ${clock(found)} of it is there.`
}

const clock = (time: Seconds) => `${Math.floor(time / 60)}:${String(Math.floor(time % 60)).padStart(2, '0')}`
