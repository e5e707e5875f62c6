import { interpolatedPeak, OVERSHOOT_BOUND, TAPS } from '@/core/measure/truePeak'
import { HOUSE_RATE, type Decibels, type Factor, type SampleIndex, type Seconds } from '@/core/units'

/** Gain is decided once per so many samples, on a grid that counts from the mix's beginning. */
export const GRID = 32
/** Grid cells over which a reduction is held and then faded, to each side: 16 ms. */
const REACH = 24
export const LIMITER_REACH: Seconds = (REACH * GRID) / HOUSE_RATE
/**
 * The voice alone is limited to so much under the ceiling before the rest is added. Its peaks would otherwise take the music
 * down with them, by up to 4 dB and at 60 dB a second: that is heard as pumping.
 */
export const VOICE_UNDER_CEILING: Decibels = 0.8

/** Samples to each side of a block that decide the gain within it. */
export const LIMITER_MARGIN: SampleIndex = GRID * (2 * REACH + 2) + TAPS

const FADE = fadeWeights(REACH)
/** Where nothing is to be reduced far and wide: one, but for how the weights round. */
const UNTOUCHED = fadedAt(new Float32Array(0), 0)

/**
 * Gain that keeps the true peak (BS.1770-5, Annex 2) of stereo sound under a ceiling, looking ahead and back 16 ms.
 *
 * It has no memory: the gain at a sample depends only on its neighbourhood, so a mix sounds the same, to the bit,
 * wherever rendering began and however it is cut into blocks. `channels` hold LIMITER_MARGIN samples before
 * and after the wanted ones; `start` (a multiple of GRID) is the place in the mix of the first wanted sample.
 * Returns one factor a sample, or null where nothing needs to be done.
 */
export function limiterGain(channels: readonly Float32Array[], frames: number, ceiling: Factor): Float32Array | null {
  // Cells before and after the wanted ones, as far as they decide: one more for interpolation between centres.
  const side = 2 * REACH + 1
  const cells = Math.ceil(frames / GRID) + 2 * side
  const required = new Float32Array(cells).fill(1)
  let any = false
  for (const channel of new Set(channels)) {
    for (let c = 0; c < cells; c++) {
      const peak = cellPeak(channel, LIMITER_MARGIN + (c - side) * GRID, ceiling)
      if (peak <= ceiling) continue
      required[c] = Math.min(required[c]!, ceiling / peak)
      any = true
    }
  }
  if (!any) return null

  // Most cells need nothing: only those around one that does are reckoned.
  const held = new Float32Array(cells).fill(1)
  const faded = new Float32Array(cells).fill(UNTOUCHED)
  required.forEach((need, c) => {
    if (need === 1) return
    for (let k = Math.max(0, c - REACH); k <= Math.min(cells - 1, c + REACH); k++) held[k] = Math.min(held[k]!, need)
  })
  let reckoned = 0
  required.forEach((need, c) => {
    if (need === 1) return
    const from = Math.max(reckoned, c - 2 * REACH)
    for (let k = from; k <= Math.min(cells - 1, c + 2 * REACH); k++) faded[k] = fadedAt(held, k)
    reckoned = Math.max(from, Math.min(cells, c + 2 * REACH + 1))
  })
  const gain = new Float32Array(frames)
  // Straight from the middle of one cell to that of the next.
  for (let i = 0, cell = side - 1, from = -GRID / 2; i < frames; cell++, from += GRID) {
    const here = faded[cell]!
    const rise = faded[cell + 1]! - here
    const end = Math.min(frames, from + GRID)
    if (rise === 0) gain.fill(here, i, end)
    else for (let k = i; k < end; k++) gain[k] = here + rise * ((k - from + 0.5) / GRID)
    i = end
  }
  return gain
}

/** What is held, faded in and out at a cell. */
function fadedAt(held: Float32Array, cell: number): number {
  let sum = 0
  for (let k = -REACH + 1; k < REACH; k++) sum += FADE[k + REACH - 1]! * (held[cell + k] ?? 1)
  return sum
}

/** True peak within one cell; cells whose samples can't reach the ceiling are not interpolated. */
function cellPeak(x: Float32Array, from: number, ceiling: Factor): Factor {
  const first = Math.max(0, from - TAPS / 2)
  const last = Math.min(x.length, from + GRID + TAPS / 2)
  let peak = 0
  for (let i = first; i < last; i++) {
    const magnitude = Math.abs(x[i]!)
    if (magnitude > peak) peak = magnitude
  }
  if (peak * OVERSHOOT_BOUND <= ceiling) return 0
  const tap = Math.max(0, from - TAPS / 2)
  return interpolatedPeak(x, tap, Math.min(x.length - TAPS, tap + GRID + 1))
}

/** A raised cosine over fewer than `reach` cells to each side; adds up to one. */
export function fadeWeights(reach: number): Float64Array {
  const weights = Float64Array.from(
    { length: 2 * reach - 1 },
    (_, k) => 1 + Math.cos((Math.PI * (k - reach + 1)) / reach),
  )
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((weight) => weight / sum)
}
