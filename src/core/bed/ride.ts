import { spokenLoudness } from '@/core/measure/takeVoice'
import { HOP, meanEnergy, type LoudnessTrack } from '@/core/measure/energyMeter'
import { energyOf, loudnessOf } from '@/core/measure/loudness'
import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import { clamp, toFactor, type Decibels, type Hertz, type LoudnessUnits, type Lufs, type Seconds } from '@/core/units'
import { tautString } from './tautString'

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
}

const STEP: Seconds = 1 / RIDE_RATE
const HOPS = Math.round(STEP / HOP)
/** A pause from which a new sentence is taken to begin: levels are not carried across it. */
const SENTENCE_PAUSE: Seconds = 0.3
const MAX_GAIN: Decibels = 12
const MIN_GAIN: Decibels = -60
/** A bed below this has nothing to ride. */
const BED_SILENCE: Lufs = -65
const TUBE = { louder: 1.1, softer: 1.6, onset: 0.5, swell: 1 }
const ONSET = { before: 0.5, after: 0.4 }
/** The bed is measured over so much to each side; where a voice sets in, over less. */
const BED_REACH: Seconds = 0.6
const ONSET_REACH: Seconds = 0.2
const PASSES = 3
/** The path is rounded over so much to each side: more saves turns and costs nearness, `npm run bench -- ride` tells. */
const SMOOTHING: Seconds = 0.45

/** What the ride wants at one point, and how far it may be off. Infinite bounds say 'no matter'. */
interface Tube {
  lower: Float64Array
  upper: Float64Array
}

interface Stretch {
  start: number
  end: number
}

/**
 * Gain that holds a bed a given clearance under the voice.
 *
 * Both tracks are K-weighted energies per 10 ms (ITU-R BS.1770-5, Annex 1) on one time line, `speech` the
 * stretches in which the voice speaks. While it speaks, the bed is held at the voice's own short-term loudness
 * less the clearance; where nobody speaks for `pauseFrom` or longer it swells; over shorter pauses it is left
 * alone. Those wishes make a tube; the gain is the shortest path through it, which turns round as seldom as
 * the tube allows. Where the tube can't be followed at the allowed slope, the louder edge gives way.
 */
export function rideBed(
  voice: LoudnessTrack,
  bed: LoudnessTrack,
  speech: readonly SpeechSegment[],
  targets: RideTargets,
): GainTrack {
  const count = Math.ceil(bed.length / HOPS) + 1
  const sentences = toStretches(joinSegments(speech, SENTENCE_PAUSE), count)
  const voiceLevel = spokenLoudness(voice, speech)
  if (sentences.length === 0 || voiceLevel === null) return new Float32Array(count)

  const voiceCurve = sentenceLevels(voice, sentences, count)
  const pauses = pausesBetween(sentences, targets.pauseFrom, count)
  const bedCurve = hannLevels(bed, count, BED_REACH)
  const onsets = onsetsAfter(pauses, sentences)
  raiseAtOnsets(bedCurve, hannLevels(bed, count, ONSET_REACH), onsets)
  const { clearance } = targets
  const clearanceAt = (i: number) =>
    typeof clearance === 'number' ? clearance : clearance[Math.min(i, clearance.length - 1)]!
  const wanted = Float64Array.from({ length: count }, (_, i) =>
    bedCurve[i]! < BED_SILENCE ? NaN : Math.min(MAX_GAIN, voiceCurve[i]! - clearanceAt(i) - bedCurve[i]!),
  )
  const swell = bedCurve.map((level) => Math.min(MAX_GAIN, voiceLevel - targets.swell - level))

  let gain: Float64Array = new Float64Array(count)
  for (let pass = 0; ; pass++) {
    gain = smoothed(tautString(...edges(tubeAround(wanted, swell, sentences, pauses), targets.slope)))
    if (pass === PASSES) return Float32Array.from(gain)
    const safe = wanted.slice()
    correct(wanted, gain, voiceCurve, applyGain(bed, gain), sentences, clearanceAt)
    // What is soft over three seconds may still be loud on the first word.
    for (const { start, end } of onsets) {
      for (let i = start; i < Math.min(end, count); i++) wanted[i] = Math.min(wanted[i]!, safe[i]!)
    }
  }
}

const toStretches = (segments: readonly SpeechSegment[], count: number): Stretch[] =>
  segments
    .map(({ start, end }) => ({ start: Math.floor(start / STEP), end: Math.min(count, Math.ceil(end / STEP)) }))
    .filter(({ start, end }) => end > start)

/**
 * The voice's loudness over 3 s, never reaching across a sentence's edge: the very measure by which the finished mix
 * is judged. Between sentences the levels of the two sides are joined by a line.
 */
function sentenceLevels(voice: LoudnessTrack, sentences: Stretch[], count: number): Float64Array {
  const levels = new Float64Array(count).fill(NaN)
  const energy = sentenceEnergies(voice)
  for (const { start, end } of sentences) {
    for (let i = start; i < end; i++) levels[i] = loudnessOf(Math.max(1e-12, energy(i, start, end)))
  }
  return filledBetween(levels)
}

/** Mean energy over 3 s around a point, as far as they lie within a sentence. */
function sentenceEnergies(track: LoudnessTrack): (point: number, start: number, end: number) => number {
  const sums = new Float64Array(track.length + 1)
  for (let h = 0; h < track.length; h++) sums[h + 1] = sums[h]! + track[h]!
  const reach = Math.round(1.5 / STEP)
  return (point, start, end) => {
    const from = Math.min(track.length, Math.max(start, point - reach) * HOPS)
    const to = Math.min(track.length, Math.min(end, point + reach) * HOPS)
    return to > from ? (sums[to]! - sums[from]!) / (to - from) : 0
  }
}

/** Replaces NaN between two values by a line, before the first and after the last by them. */
function filledBetween(values: Float64Array): Float64Array {
  let last = -1
  for (let i = 0; i < values.length; i++) {
    if (Number.isNaN(values[i])) continue
    for (let k = last + 1; k < i; k++) {
      values[k] = last < 0 ? values[i]! : values[last]! + ((values[i]! - values[last]!) * (k - last)) / (i - last)
    }
    last = i
  }
  if (last >= 0) values.fill(values[last]!, last + 1)
  return values
}

/** The bed's loudness under a Hann window that reaches so far to each side. */
function hannLevels(bed: LoudnessTrack, count: number, reach: Seconds): Float64Array {
  const perStep = Float64Array.from({ length: count }, (_, i) => meanEnergy(bed, i * HOPS, (i + 1) * HOPS))
  return hannMean(perStep, reach).map((energy) => loudnessOf(Math.max(1e-12, energy)))
}

/** Weighted mean over `reach` seconds to each side; what lies outside the track is left out of the mean. */
function hannMean(values: Float64Array, reach: Seconds): Float64Array {
  const side = Math.round(reach / STEP)
  const weights = Float64Array.from(
    { length: 2 * side + 1 },
    (_, k) => 1 + Math.cos((Math.PI * (k - side)) / (side + 1)),
  )
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const means = new Float64Array(values.length)
  for (let i = 0; i < values.length; i++) {
    const first = Math.max(0, i - side)
    const last = Math.min(values.length - 1, i + side)
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

/** Pauses long enough to swell in, also before the first and after the last word. */
function pausesBetween(sentences: Stretch[], pauseFrom: Seconds, count: number): Stretch[] {
  const starts = [0, ...sentences.map(({ end }) => end)]
  const ends = [...sentences.map(({ start }) => start), count]
  return starts
    .map((start, i) => ({ start, end: ends[i]! }))
    .filter(({ start, end }) => (end - start) * STEP >= pauseFrom - STEP)
}

/** The moments around the first word after a long pause. */
function onsetsAfter(pauses: readonly Stretch[], sentences: readonly Stretch[]): Stretch[] {
  return sentences
    .filter(({ start }) => pauses.some((pause) => pause.end === start && pause.end > pause.start))
    .map(({ start }) => ({
      start: Math.max(0, start - Math.round(ONSET.before / STEP)),
      end: start + Math.round(ONSET.after / STEP),
    }))
}

/** A drum stroke on the first word would mask it, however soft the bed is on average. */
function raiseAtOnsets(level: Float64Array, momentary: Float64Array, onsets: readonly Stretch[]): void {
  for (const { start, end } of onsets) {
    for (let i = start; i < Math.min(end, level.length); i++) level[i] = Math.max(level[i]!, momentary[i]!)
  }
}

function tubeAround(wanted: Float64Array, swell: Float64Array, sentences: Stretch[], pauses: Stretch[]): Tube {
  const count = wanted.length
  const tube = { lower: new Float64Array(count).fill(MIN_GAIN), upper: new Float64Array(count).fill(MAX_GAIN) }
  const set = (i: number, centre: number, softer: Decibels, louder: Decibels) => {
    if (Number.isNaN(centre)) return
    tube.lower[i] = centre - softer
    tube.upper[i] = centre + louder
  }
  // Short pauses have no lower edge, but nothing is gained by growing louder in them either.
  wanted.forEach((value, i) => set(i, value, Infinity, TUBE.louder))
  for (const { start, end } of pauses) {
    for (let i = start; i < end; i++) set(i, swell[i]!, TUBE.swell, TUBE.swell)
  }
  for (const { start, end } of sentences) {
    for (let i = start; i < end; i++) set(i, wanted[i]!, TUBE.softer, TUBE.louder)
  }
  // After a long pause the bed is down before the voice sets in.
  for (const { start, end } of onsetsAfter(pauses, sentences)) {
    const first = start + Math.round(ONSET.before / STEP)
    for (let i = start; i < Math.min(count, end); i++) set(i, wanted[Math.max(i, first)]!, TUBE.onset, TUBE.onset)
  }
  tube.lower.forEach((value, i) => (tube.lower[i] = Math.max(MIN_GAIN, value)))
  return tube
}

/** Both edges made walkable at the allowed slope. Where they then cross, the louder side gives way: no masking. */
function edges({ lower, upper }: Tube, slope: Decibels): [lower: Float64Array, upper: Float64Array] {
  const rise = slope * STEP
  limitSlope(upper, (a, b) => Math.min(a, b + rise))
  limitSlope(lower, (a, b) => Math.max(a, b - rise))
  lower.forEach((value, i) => (lower[i] = Math.min(value, upper[i]!)))
  return [lower, upper]
}

function limitSlope(edge: Float64Array, bounded: (value: number, neighbour: number) => number): void {
  for (let i = 1; i < edge.length; i++) edge[i] = bounded(edge[i]!, edge[i - 1]!)
  for (let i = edge.length - 2; i >= 0; i--) edge[i] = bounded(edge[i]!, edge[i + 1]!)
}

const smoothed = (gain: Float64Array) => hannMean(gain, SMOOTHING)

/**
 * Measures what the gain achieves, over 3 s inside one sentence, and shifts the wish by most of the error. Where the
 * gain was off the wish on purpose, within its tube, that is no error.
 */
function correct(
  wanted: Float64Array,
  gain: Float64Array,
  voiceCurve: Float64Array,
  ridden: LoudnessTrack,
  sentences: Stretch[],
  clearanceAt: (point: number) => LoudnessUnits,
): void {
  const energy = sentenceEnergies(ridden)
  for (const { start, end } of sentences) {
    for (let i = start; i < end; i++) {
      const under = energy(i, start, end)
      if (under < energyOf(-90)) continue
      const meant = clearanceAt(i) - (gain[i]! - wanted[i]!)
      const error = clamp(voiceCurve[i]! - loudnessOf(under) - meant, -6, 6)
      wanted[i] = Math.min(MAX_GAIN, wanted[i]! + 0.8 * error)
    }
  }
}

/** Energies of a bed after its gain. As in the renderer, the factor runs straight between the gain's points. */
export function applyGain(bed: LoudnessTrack, gain: ArrayLike<number>): LoudnessTrack {
  const factors = new Float64Array(gain.length)
  for (let i = 0; i < factors.length; i++) factors[i] = toFactor(gain[i]!)
  const out = new Float32Array(bed.length)
  for (let i = 0, h = 0; h < bed.length; i++) {
    const factor = factors[Math.min(i, factors.length - 1)]!
    const slope = ((factors[Math.min(i + 1, factors.length - 1)] ?? factor) - factor) / HOPS
    const end = Math.min(bed.length, (i + 1) * HOPS)
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
