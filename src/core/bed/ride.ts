import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { spokenLoudness } from '@/core/measure/takeVoice'
import type { SpeechSegment } from '@/core/measure/speech'
import { toFactor, type Decibels, type Hertz, type LoudnessUnits, type Lufs, type Seconds } from '@/core/units'
import { cheapestPath } from './cheapestPath'
import { hasteOf, ridePrices, TURN } from './rideCosts'
import { around, loudnessWithin, rideWishes, SHORT_TERM, TICK, type Wishes } from './rideWishes'

/** Gain in dB, one value every 1 / RIDE_RATE seconds, linear between. */
export type GainTrack = Float32Array
export const RIDE_RATE: Hertz = 20

export interface RideTargets {
  /** One for all, or one for each point of the gain. */
  clearance: LoudnessUnits | ArrayLike<LoudnessUnits>
  swell: LoudnessUnits
  pauseFrom: Seconds
  /** Steepest change of the gain, in dB a second. */
  slope: Decibels
  /** The most the bed is lifted. */
  highest?: Decibels
}

const POINT: Seconds = 1 / RIDE_RATE
const POINTS_A_TICK = Math.round(TICK / POINT)
const POINT_HOPS = Math.round(POINT / HOP)
const MAX_GAIN: Decibels = 12
const MIN_GAIN: Decibels = -60
/** Levels of the gain are at most so far apart. */
const WIDEST_STEP: Decibels = 0.5
/** How far from a wish a way is looked for: at first, and where the aim is only corrected. */
const SEARCH = { first: 3.5, again: 2.8 }
const CORRECTIONS = 2
/** Room under what is most allowed: the way may pass a little below it. */
const BELOW_CAP: Decibels = 1
/** What is softer than this once it is ridden tells nothing. */
const RIDDEN_SILENCE: Lufs = -95
/** The path is rounded over so much to each side. */
const SMOOTHING: Seconds = 0.4

/**
 * Gain that holds a bed a given clearance under the voice.
 *
 * Both tracks are K-weighted energies per 10 ms (ITU-R BS.1770-5, Annex 1) on one time line, `speech` the stretches in
 * which the voice speaks. While it speaks, the bed is wanted at the voice's own short-term loudness less the clearance;
 * where nobody speaks for `pauseFrom` or longer it swells; over shorter pauses it is left alone (rideWishes.ts). What it
 * costs to be off and to turn round is weighed (rideCosts.ts), and the cheapest way is taken (cheapestPath.ts). Then it is
 * measured what that achieves, and the aim corrected.
 */
export function rideBed(
  voice: LoudnessTrack,
  bed: LoudnessTrack,
  speech: readonly SpeechSegment[],
  { clearance, swell, pauseFrom, slope, highest = MAX_GAIN }: RideTargets,
): GainTrack {
  const count = Math.ceil(bed.length / POINT_HOPS) + 1
  const voiceLevel = spokenLoudness(voice, speech)
  if (voiceLevel === null) return new Float32Array(count)
  const clearanceAt = (tick: number) =>
    typeof clearance === 'number' ? clearance : clearance[Math.min(tick * POINTS_A_TICK, clearance.length - 1)]!
  const wishes = rideWishes(voice, bed, speech, { clearanceAt, swellLoudness: voiceLevel - swell, pauseFrom })
  if (!hasWish(wishes)) return new Float32Array(count)

  const cheapest = cheapestGain(slope, highest, count)
  let gain = cheapest(wishes, SEARCH.first)
  for (let pass = 0; pass < CORRECTIONS; pass++) {
    correct(wishes, gain, applyGain(bed, gain))
    gain = cheapest(wishes, SEARCH.again)
  }
  return gain
}

const hasWish = ({ sentence, swell }: Wishes) =>
  sentence.some((value) => !Number.isNaN(value)) || swell.some((value) => !Number.isNaN(value))

function cheapestGain(slope: Decibels, highest: Decibels, count: number) {
  const most = Math.max(2, Math.ceil((slope * TICK) / WIDEST_STEP))
  const step = (slope * TICK) / most
  const pricesOf = ridePrices(step)
  const moves = Array.from({ length: most }, (_, i) => hasteOf((i + 1) * step))
  return (wishes: Wishes, reach: Decibels): GainTrack => {
    const { lower, upper } = band(wishes, reach, most * step, highest)
    const lowest = new Int32Array(lower.length)
    const above = new Int32Array(upper.length)
    for (let tick = 0; tick < lower.length; tick++) {
      lowest[tick] = Math.floor(lower[tick]! / step)
      above[tick] = Math.ceil(upper[tick]! / step)
    }
    const way = cheapestPath({ lowest, highest: above, prices: pricesOf(wishes), moves, turn: TURN })
    return rounded(way, step, count)
  }
}

/** The gain along a way through levels: straight between its ticks, and then rounded. */
function rounded(level: Int32Array, step: Decibels, count: number): GainTrack {
  const points = new Float64Array(count)
  for (let tick = 0, i = 0; i < count; tick++) {
    const here = level[Math.min(level.length - 1, tick)]!
    const next = level[Math.min(level.length - 1, tick + 1)]!
    for (let k = 0; k < POINTS_A_TICK && i < count; k++, i++)
      points[i] = step * (here + ((next - here) * k) / POINTS_A_TICK)
  }
  return new Float32Array(hannMean(points, SMOOTHING))
}

/** Between which gains a way is looked for: near the wishes, on the way from one to the next, walkable at `rise` a tick. */
function band({ sentence, swell, onset, landing }: Wishes, reach: Decibels, rise: Decibels, highest: Decibels) {
  const wish = sentence.map((value, tick) => (Number.isNaN(value) ? swell[tick]! : value))
  const lower = new Float64Array(wish.length)
  const upper = new Float64Array(wish.length)
  for (let from = 0; from < wish.length;) {
    let to = from
    while (to < wish.length && Number.isNaN(wish[to])) to++
    // A tick without a wish lies between its neighbours'.
    const [before, after] = [wish[from - 1] ?? wish[to]!, wish[to] ?? wish[from - 1]!]
    for (let tick = from; tick <= Math.min(to, wish.length - 1); tick++) {
      const [a, b] = tick === to ? [wish[to]!, wish[to]!] : [before, after]
      lower[tick] = within(Math.min(a, b) - reach, highest)
      upper[tick] = within(Math.max(a, b) + reach, highest)
    }
    from = to + 1
  }
  // Where the bed has to be down before the voice sets in, also the way there is looked for.
  for (const cap of [onset, landing])
    for (let tick = 0; tick < cap.length; tick++)
      if (cap[tick]! - BELOW_CAP < lower[tick]!) lower[tick] = Math.max(MIN_GAIN, cap[tick]! - BELOW_CAP)
  for (let i = 1; i < lower.length; i++) {
    lower[i] = Math.min(lower[i]!, lower[i - 1]! + rise)
    upper[i] = Math.max(upper[i]!, upper[i - 1]! - rise)
  }
  for (let i = lower.length - 2; i >= 0; i--) {
    lower[i] = Math.min(lower[i]!, lower[i + 1]! + rise)
    upper[i] = Math.max(upper[i]!, upper[i + 1]! - rise)
  }
  return { lower, upper }
}

const within = (gain: Decibels, highest: Decibels) => Math.min(highest, Math.max(MIN_GAIN, gain))

/** Shifts the wishes by what the gain misses: over 3 s inside a sentence the bed's loudness is not its loudness before plus the gain. */
function correct({ sentences, aim, sentence }: Wishes, gain: GainTrack, ridden: LoudnessTrack): void {
  const riddenIn = loudnessWithin(ridden)
  for (const { start, end, first, last } of sentences) {
    for (let tick = first; tick < last; tick++) {
      if (Number.isNaN(sentence[tick])) continue
      const achieved = riddenIn(around(tick * TICK, SHORT_TERM, start, end))
      if (achieved > RIDDEN_SILENCE) sentence[tick] = gain[tick * POINTS_A_TICK]! + aim[tick]! - achieved
    }
  }
}

/** Weighted mean (Hann) over `reach` to each side; what lies outside the track is left out of the mean. */
function hannMean(values: Float64Array, reach: Seconds): Float64Array {
  const side = Math.round(reach / POINT)
  const weights = Float64Array.from(
    { length: 2 * side + 1 },
    (_, k) => 1 + Math.cos((Math.PI * (k - side)) / (side + 1)),
  )
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const means = new Float64Array(values.length)
  // Most of the time the way rests, and what doesn't move over a whole window is its own mean.
  let [seen, moved] = [0, 0]
  for (let i = 0; i < values.length; i++) {
    const first = Math.max(0, i - side)
    const last = Math.min(values.length - 1, i + side)
    for (; seen < last; seen++) if (values[seen + 1] !== values[seen]) moved = seen + 1
    if (moved <= first) {
      means[i] = values[i]!
      continue
    }
    let sum = 0
    for (let k = first; k <= last; k++) sum += weights[k - i + side]! * values[k]!
    let weight = whole
    if (last - first < 2 * side) {
      weight = 0
      for (let k = first; k <= last; k++) weight += weights[k - i + side]!
    }
    means[i] = sum / weight
  }
  return means
}

/** Energies of a bed after its gain. As in the renderer, the factor runs straight between the gain's points. */
export function applyGain(bed: LoudnessTrack, gain: ArrayLike<number>): LoudnessTrack {
  const factors = new Float64Array(gain.length)
  for (let i = 0; i < factors.length; i++) factors[i] = toFactor(gain[i]!)
  const out = new Float32Array(bed.length)
  for (let i = 0, h = 0; h < bed.length; i++) {
    const factor = factors[Math.min(i, factors.length - 1)]!
    const slope = ((factors[Math.min(i + 1, factors.length - 1)] ?? factor) - factor) / POINT_HOPS
    const end = Math.min(bed.length, (i + 1) * POINT_HOPS)
    for (let k = 0; h < end; h++, k++) out[h] = bed[h]! * (factor + slope * k) ** 2
  }
  return out
}

export function gainAt(gain: ArrayLike<number>, time: Seconds): Decibels {
  const place = Math.min(gain.length - 1, Math.max(0, time * RIDE_RATE))
  const i = Math.floor(place)
  const next = gain[Math.min(i + 1, gain.length - 1)] ?? 0
  return gain[i]! + (next - gain[i]!) * (place - i)
}
