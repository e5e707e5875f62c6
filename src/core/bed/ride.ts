import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { spokenLoudness } from '@/core/measure/takeVoice'
import type { SpeechSegment } from '@/core/measure/speech'
import { toFactor, type Decibels, type Hertz, type LoudnessUnits, type Lufs, type Seconds } from '@/core/units'
import { cheapestPath } from './cheapestPath'
import { hasteOf, ridePrices, TURN } from './rideCosts'
import { around, loudnessWithin, rideWishes, SHORT_TERM, TICK, type LoudnessIn, type Wishes } from './rideWishes'

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
  const voiceIn = loudnessWithin(voice, rooms.voice(voice.length + 1))
  const bedIn = loudnessWithin(bed, rooms.bed(bed.length + 1))
  const wanted = { clearanceAt, swellLoudness: voiceLevel - swell, pauseFrom }
  const wishes = rideWishes(voiceIn, bedIn, bed.length, speech, wanted)
  if (!hasWish(wishes)) return new Float32Array(count)

  const cheapest = cheapestGain(wishes, { slope, highest, count })
  let gain = cheapest(SEARCH.first)
  for (let pass = 0; pass < CORRECTIONS; pass++) {
    const ridden = applyGain(bed, gain, rooms.ridden(bed.length))
    // Nobody asks for the bed as it was laid any more.
    correct(wishes, gain, loudnessWithin(ridden, rooms.bed(bed.length + 1)))
    gain = cheapest(SEARCH.again)
  }
  return gain
}

/** One for all rides, one after the other: to allocate as much for each costs more than what is done with it. */
const rooms = { voice: roomOf(Float64Array), bed: roomOf(Float64Array), ridden: roomOf(Float32Array) }

/** Gives the same room again and again, as long as it is large enough; what was written there last stands in it. */
function roomOf<T extends Float32Array | Float64Array>(kind: new (length: number) => T): (length: number) => T {
  let room = new kind(0)
  return (length) => {
    if (room.length < length) room = new kind(length)
    return room.subarray(0, length) as T
  }
}

const hasWish = ({ sentence, swell }: Wishes) =>
  sentence.some((value) => !Number.isNaN(value)) || swell.some((value) => !Number.isNaN(value))

interface Ways {
  slope: Decibels
  highest: Decibels
  /** Points of the gain. */
  count: number
}

/** Finds a gain near the wishes as they are then; but for the sentences' they don't change. */
function cheapestGain(wishes: Wishes, { slope, highest, count }: Ways): (reach: Decibels) => GainTrack {
  const most = Math.max(2, Math.ceil((slope * TICK) / WIDEST_STEP))
  const step = (slope * TICK) / most
  const pricesNow = ridePrices(step, wishes)
  const moves = Array.from({ length: most }, (_, i) => hasteOf((i + 1) * step))
  return (reach) => {
    const ground = { ...band(wishes, reach, { step, climb: most, highest }), prices: pricesNow(), moves, turn: TURN }
    return rounded(cheapestPath(ground), step, count)
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
  return hannMean(points, SMOOTHING)
}

interface Levels {
  step: Decibels
  /** So many can be climbed a tick. */
  climb: number
  /** No gain above this. */
  highest: Decibels
}

/** Between which levels a way is looked for, both included, one of each a tick. */
interface Band {
  lowest: Int32Array
  highest: Int32Array
}

/** Near the wishes and on the way from one to the next; where the bed has to be down before the voice sets in, also there. */
function band(wishes: Wishes, reach: Decibels, levels: Levels): Band {
  const near = nearWishes(wishes, reach, levels)
  for (const cap of [wishes.onset, wishes.landing]) lowerTo(cap, near, levels)
  makeWalkable(near, levels)
  return near
}

function nearWishes({ sentence, swell }: Wishes, reach: Decibels, { step, highest: top }: Levels): Band {
  const ticks = sentence.length
  const lowest = new Int32Array(ticks)
  const highest = new Int32Array(ticks)
  const wished = (tick: number) => (Number.isNaN(sentence[tick]) ? swell[tick]! : sentence[tick]!)
  const lay = (a: Decibels, b: Decibels, from: number, to: number) => {
    lowest.fill(Math.floor(within(Math.min(a, b) - reach, top) / step), from, to)
    highest.fill(Math.ceil(within(Math.max(a, b) + reach, top) / step), from, to)
  }
  for (let from = 0, before = NaN; from < ticks;) {
    let to = from
    let wish = NaN
    while (to < ticks && Number.isNaN((wish = wished(to)))) to++
    // A tick without a wish lies between its neighbours'.
    if (to > from) lay(Number.isNaN(before) ? wish : before, Number.isNaN(wish) ? before : wish, from, to)
    if (to < ticks) lay(wish, wish, to, to + 1)
    before = wish
    from = to + 1
  }
  return { lowest, highest }
}

function lowerTo(cap: Float64Array, { lowest }: Band, { step }: Levels): void {
  for (let tick = 0; tick < cap.length; tick++) {
    if (Number.isNaN(cap[tick])) continue
    const low = Math.floor(Math.max(MIN_GAIN, cap[tick]! - BELOW_CAP) / step)
    if (low < lowest[tick]!) lowest[tick] = low
  }
}

/** From each tick's levels the next one's are in reach. */
function makeWalkable({ lowest, highest }: Band, { climb }: Levels): void {
  const widen = (tick: number, by: number) => {
    if (lowest[by]! + climb < lowest[tick]!) lowest[tick] = lowest[by]! + climb
    if (highest[by]! - climb > highest[tick]!) highest[tick] = highest[by]! - climb
  }
  for (let tick = 1; tick < lowest.length; tick++) widen(tick, tick - 1)
  for (let tick = lowest.length - 2; tick >= 0; tick--) widen(tick, tick + 1)
}

const within = (gain: Decibels, highest: Decibels) => Math.min(highest, Math.max(MIN_GAIN, gain))

/** Shifts the wishes by what the gain misses: over 3 s inside a sentence the bed's loudness is not its loudness before plus the gain. */
function correct({ sentences, aim, sentence }: Wishes, gain: GainTrack, ridden: LoudnessIn): void {
  for (const inside of sentences) {
    for (let tick = inside.first; tick < inside.last; tick++) {
      if (Number.isNaN(sentence[tick])) continue
      const achieved = around(ridden, tick * TICK, SHORT_TERM, inside)
      if (achieved > RIDDEN_SILENCE) sentence[tick] = gain[tick * POINTS_A_TICK]! + aim[tick]! - achieved
    }
  }
}

/** Weighted mean (Hann) over `reach` to each side; what lies outside the track is left out of the mean. */
function hannMean(values: Float64Array, reach: Seconds): Float32Array {
  const side = Math.round(reach / POINT)
  const weights = Float64Array.from(
    { length: 2 * side + 1 },
    (_, k) => 1 + Math.cos((Math.PI * (k - side)) / (side + 1)),
  )
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const means = new Float32Array(values.length)
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
export function applyGain(
  bed: LoudnessTrack,
  gain: ArrayLike<number>,
  out: LoudnessTrack = new Float32Array(bed.length),
): LoudnessTrack {
  const last = gain.length - 1
  let factor = toFactor(gain[0]!)
  for (let i = 0, h = 0; h < bed.length; i++) {
    const coming = gain[Math.min(i + 1, last)]!
    // Most of the time the gain rests.
    const next = coming === gain[Math.min(i, last)] ? factor : toFactor(coming)
    const slope = (next - factor) / POINT_HOPS
    const end = Math.min(bed.length, (i + 1) * POINT_HOPS)
    for (let k = 0; h < end; h++, k++) out[h] = bed[h]! * (factor + slope * k) ** 2
    factor = next
  }
  return out
}

export function gainAt(gain: ArrayLike<number>, time: Seconds): Decibels {
  const place = Math.min(gain.length - 1, Math.max(0, time * RIDE_RATE))
  const i = Math.floor(place)
  const next = gain[Math.min(i + 1, gain.length - 1)] ?? 0
  return gain[i]! + (next - gain[i]!) * (place - i)
}
