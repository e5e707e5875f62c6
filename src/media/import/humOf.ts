import { open } from 'node:fs/promises'
import type { Analysis } from '@/core/measure/analysis'
import { findHum, togetherLongest, type Hum } from '@/core/measure/hum'
import { quietStretches } from '@/core/measure/quiet'
import { toSamples, type Seconds } from '@/core/units'
import { bytesOf, deinterleave } from '../ffmpeg'
import { readWhole } from '../store/files'

/** Shorter pauses can't tell one tone from another. */
const SHORTEST: Seconds = 0.25

/** Hum in the pauses of a decoded sound, in its first channel. */
export async function humOf(path: string, analysis: Analysis): Promise<Hum | null> {
  const pauses = togetherLongest(quietStretches(analysis).filter(({ from, to }) => to - from >= SHORTEST))
  const file = await open(path, 'r')
  try {
    return findHum(
      await Promise.all(
        pauses.map(async ({ from, to }) => {
          const samples = new Float32Array(toSamples(to - from) * analysis.channels)
          await readWhole(file, bytesOf(samples), toSamples(from) * analysis.channels * 4)
          return { from: toSamples(from), samples: deinterleave(samples, analysis.channels)[0]! }
        }),
      ),
    )
  } finally {
    await file.close()
  }
}
