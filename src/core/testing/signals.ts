import { seededRandom } from '@/core/random'
import { HOUSE_RATE, toFactor, type Decibels, type Hertz, type Seconds } from '@/core/units'

/** Test signals made by formula, so that what they must measure follows from their definition. */

/** One stretch of a sine: its peak level relative to full scale (-Infinity for silence) and its length. */
export type Tone = readonly [level: Decibels, length: Seconds]

/** Stretches of one sine one after the other; the phase runs on. */
export function tones(stretches: readonly Tone[], frequency: Hertz = 1000, rate: Hertz = HOUSE_RATE): Float32Array {
  const ends: number[] = []
  for (const [, length] of stretches) ends.push((ends.at(-1) ?? 0) + length)
  const total = Math.round((ends.at(-1) ?? 0) * rate)
  const out = new Float32Array(total)
  // Globals are slow inside a test runner's sandbox; a local name is not.
  const { sin, PI } = Math
  let from = 0
  stretches.forEach(([level], s) => {
    const to = Math.round(ends[s]! * rate)
    const factor = toFactor(level)
    for (let i = from; i < to; i++) out[i] = factor * sin((2 * PI * frequency * i) / rate)
    from = to
  })
  return out
}

export const inBoth = (channel: Float32Array): Float32Array[] => [channel, channel]

/** White noise in -1..1 from a seed (mulberry32): the same on every run. */
export function noise(samples: number, seed = 1): Float32Array {
  const random = seededRandom(seed)
  return Float32Array.from({ length: samples }, () => random() * 2 - 1)
}
