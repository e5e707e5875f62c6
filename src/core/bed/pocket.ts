import type { Pocket } from '@/core/lesson/document'
import { BAND_CENTRES, BAND_HOP, bandByteToDecibels } from '@/core/measure/bands'
import { BAND_IMPORTANCE, FIRST_IMPORTANT } from '@/core/measure/speechIndex'
import { clamp, HOUSE_RATE, type Decibels, type Hertz, type Seconds } from '@/core/units'
import { RIDE_RATE, type GainTrack } from './ride'

/** One dip of the pocket: so many dB at its middle by itself; `q` is middle by width. */
export interface Dip {
  frequency: Hertz
  q: number
  depth: Decibels
}

/** What the bed gives up while the voice speaks. `amount` runs from 0 to 1 at RIDE_RATE. */
export interface PocketPlan {
  dips: Dip[]
  amount: GainTrack
}

/** Mean levels in third-octave bands (see bands.ts), in dB. */
export type Spectrum = Float64Array

/**
 * Where speech is understood: below 800 Hz a dip would thin the music and help little, above 5 kHz it does nothing
 * (both measured). One dip lies in each of these stretches of bands.
 */
const REGIONS: readonly [first: number, last: number][] = [
  [11, 13],
  [14, 16],
  [17, 19],
]
const WIDTH = 1.4
/** A band is understood fully when the voice is so far above what covers it (ANSI S3.5). */
const CLEAR: Decibels = 15
const DEEPEST_NEEDED: Decibels = 9
const LEAST_USEFUL: Decibels = 1

/**
 * The dips for this voice: in each region at the middle of what is heard of the voice above its own noise, weighted by
 * what the bands do for understanding. As deep as set, or as deep as needed for the voice to be clear of a bed of this
 * spectrum (levels as they will stand in the mix). Empty where no dip is needed.
 */
export function chooseDips(voice: Spectrum, floor: Spectrum, bed: Spectrum, { depth }: Pick<Pocket, 'depth'>): Dip[] {
  const dips = REGIONS.flatMap(([first, last]) => {
    const weights = bandsOf(first, last).map(
      (band) => BAND_IMPORTANCE[band - FIRST_IMPORTANT]! * clamp(voice[band]! - floor[band]!, 0, 40),
    )
    const whole = weights.reduce((sum, weight) => sum + weight, 0)
    const middle =
      whole > 0 ? weights.reduce((sum, weight, i) => sum + weight * (first + i), 0) / whole : (first + last) / 2
    const needed = depth ?? neededDepth(voice, bed, first, last)
    if (needed < LEAST_USEFUL) return []
    return [{ frequency: 1000 * 10 ** ((middle - 12) / 10), q: WIDTH, depth: needed }]
  })
  return evened(dips)
}

/** Dips reach into each other: each is made so much shallower that together they are as deep as they should be. */
function evened(dips: readonly Dip[]): Dip[] {
  let now = dips.map((dip) => ({ ...dip }))
  for (let round = 0; round < 8; round++) {
    now = now.map((dip, i) => ({ ...dip, depth: (dip.depth * dips[i]!.depth) / depthAt(now, dip.frequency) }))
  }
  return now
}

/** How deep the whole pocket is at a frequency. */
export const depthAt = (dips: readonly Dip[], frequency: Hertz): Decibels =>
  -10 * Math.log10(pocketPower(dips, frequency, 1))

/** How far the bed stands above what would leave the voice clear, in the middle of the region's bands. */
function neededDepth(voice: Spectrum, bed: Spectrum, first: number, last: number): Decibels {
  const over = bandsOf(first, last).map((band) => bed[band]! - (voice[band]! - CLEAR))
  return clamp(over.sort((a, b) => a - b)[over.length >> 1]!, 0, DEEPEST_NEEDED)
}

const bandsOf = (first: number, last: number) => Array.from({ length: last - first + 1 }, (_, i) => first + i)

/** Coefficients of a band-pass of 0 dB at its middle (Bristow-Johnson, "Cookbook formulae for audio EQ"). */
export interface BandPass {
  b0: number
  a1: number
  a2: number
  /** What is taken away at full amount: the share of the band that makes the dip so deep. */
  share: number
}

export function bandPassOf({ frequency, q, depth }: Dip): BandPass {
  const angle = (2 * Math.PI * frequency) / HOUSE_RATE
  const alpha = Math.sin(angle) / (2 * q)
  const norm = 1 + alpha
  return { b0: alpha / norm, a1: (-2 * Math.cos(angle)) / norm, a2: (1 - alpha) / norm, share: 1 - 10 ** (-depth / 20) }
}

/** Power that is left of a band at an amount: 1 where the pocket does nothing. */
export function pocketPower(dips: readonly Dip[], frequency: Hertz, amount: number): number {
  let [real, imaginary] = [1, 0]
  for (const dip of dips) {
    const { b0, a1, a2, share } = bandPassOf(dip)
    const angle = (2 * Math.PI * frequency) / HOUSE_RATE
    const [c1, s1, c2, s2] = [Math.cos(angle), Math.sin(angle), Math.cos(2 * angle), Math.sin(2 * angle)]
    const [nr, ni] = [b0 * (1 - c2), b0 * s2]
    const [dr, di] = [1 + a1 * c1 + a2 * c2, -a1 * s1 - a2 * s2]
    const size = dr * dr + di * di
    real -= (share * amount * (nr * dr + ni * di)) / size
    imaginary -= (share * amount * (ni * dr - nr * di)) / size
  }
  return real * real + imaginary * imaginary
}

/** Run-up of the filters in samples: what came before can't be heard any more. */
export const POCKET_RUN_UP = 4800

/**
 * Takes the dips out of a channel that begins `POCKET_RUN_UP` samples before the house sample `from`; what is returned
 * begins there. Between the points of the amount the dips move in a straight line.
 */
export function takePocket(channel: Float32Array, { dips, amount }: PocketPlan, from: number): Float32Array {
  const out = channel.slice(POCKET_RUN_UP)
  for (let first = 0; first < dips.length; first += 3)
    takeThree(channel, dips.slice(first, first + 3), amount, from, out)
  return out
}

/** Takes nothing away. */
const NO_BAND: BandPass = { b0: 0, a1: 0, a2: 0, share: 0 }

/** Up to three dips at a time, written out: none of them waits for another, and nothing is looked up from sample to sample. */
function takeThree(
  channel: Float32Array,
  dips: readonly Dip[],
  amount: GainTrack,
  from: number,
  out: Float32Array,
): void {
  const [a = NO_BAND, b = NO_BAND, c = NO_BAND] = dips.map(bandPassOf)
  const { b0: pass1, a1: last1, a2: before1, share: share1 } = a
  const { b0: pass2, a1: last2, a2: before2, share: share2 } = b
  const { b0: pass3, a1: last3, a2: before3, share: share3 } = c
  let [u1, v1, u2, v2, u3, v3] = [0, 0, 0, 0, 0, 0]
  let [x1, x2] = [0, 0]
  const cell = HOUSE_RATE / RIDE_RATE
  for (let i = 0; i < channel.length;) {
    const isHeard = i >= POCKET_RUN_UP
    const place = from + i - POCKET_RUN_UP
    const index = Math.max(0, Math.floor(place / cell))
    const end = Math.min(channel.length, isHeard ? i + (index + 1) * cell - place : POCKET_RUN_UP)
    const here = amount[index] ?? 0
    const slope = (amount[index + 1] ?? here) - here
    for (let n = place; i < end; i++, n++) {
      const x = channel[i]!
      const moved = x - x2
      const y1 = pass1 * moved - last1 * u1 - before1 * v1
      const y2 = pass2 * moved - last2 * u2 - before2 * v2
      const y3 = pass3 * moved - last3 * u3 - before3 * v3
      x2 = x1
      x1 = x
      v1 = u1
      u1 = y1
      v2 = u2
      u2 = y2
      v3 = u3
      u3 = y3
      if (!isHeard) continue
      const opened = here + slope * (n / cell - index)
      const left = Math.fround(Math.fround(out[i - POCKET_RUN_UP]! - y1 * share1 * opened) - y2 * share2 * opened)
      out[i - POCKET_RUN_UP] = left - y3 * share3 * opened
    }
  }
}

/** Mean band levels of a sound over the rows of 100 ms that are picked; null where there are none. */
export function meanSpectrum(bands: Uint8Array, isPicked: (time: Seconds) => boolean): Spectrum | null {
  const count = BAND_CENTRES.length
  const sums = new Float64Array(count)
  let rows = 0
  for (let row = 0; (row + 1) * count <= bands.length; row++) {
    if (!isPicked((row + 0.5) * BAND_HOP)) continue
    for (let b = 0; b < count; b++) sums[b]! += 10 ** (bandByteToDecibels(bands[row * count + b]!) / 10)
    rows++
  }
  return rows === 0 ? null : sums.map((sum) => 10 * Math.log10(sum / rows + 1e-12))
}
