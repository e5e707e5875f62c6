import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { loudnessOf } from '@/core/measure/loudness'
import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import type { Decibels, LoudnessUnits, Lufs, Seconds } from '@/core/units'

/** The ride decides once a tick. */
export const TICK: Seconds = 0.1
/** A bed below this has nothing to ride. */
const BED_SILENCE: Lufs = -65

/** A pause from which a new sentence is taken to begin: levels are not carried across it. */
const SENTENCE_PAUSE: Seconds = 0.3
const TICK_HOPS = Math.round(TICK / HOP)
/** Windows of short-term and momentary loudness (EBU Tech 3341). */
export const SHORT_TERM: Seconds = 3
const MOMENTARY: Seconds = 0.4
/** What lies so far under the bed's own short-term loudness is a gap in it, which no gain should fill. */
const GAP: LoudnessUnits = 15
/** Speech is found up to a quarter second late: a pause may be so much shorter than it looks. */
const FOUND_LATE: Seconds = 0.25
/** The first word of a sentence: what is loud in it masks it, whatever the bed is on average. */
const ONSET = { before: 0.3, after: 0.4, window: { first: -0.3, last: 0.1 }, louder: 1.8 }
/** Before the voice sets in again after a long pause, the bed is down: also once the way is rounded, 300 ms before. */
const LANDING = { length: 0.6, louder: 0.2, foresight: 1 }

/** A stretch of time, and the ticks that lie in it. */
export interface Stretch {
  start: Seconds
  end: Seconds
  first: number
  /** Behind the last one. */
  last: number
}

/** Gains in dB that are wanted, one a tick. NaN: nothing is wanted there. */
export interface Wishes {
  sentences: Stretch[]
  /** Voice over 3 s inside its sentence, less the clearance: how loud the bed ought to be (LUFS). */
  aim: Float64Array
  /** What brings the bed's short-term loudness inside the sentence to its aim. */
  sentence: Float64Array
  /** The same for its momentary loudness. */
  phrase: Float64Array
  /** In long pauses. */
  swell: Float64Array
  /** Around the first words: more than this masks them. */
  onset: Float64Array
  /** At the end of long pauses: more than this is still up when the voice sets in. */
  landing: Float64Array
}

export interface Wanted {
  clearanceAt: (tick: number) => LoudnessUnits
  /** How loud the bed is in long pauses. */
  swellLoudness: Lufs
  pauseFrom: Seconds
}

/** `hops` is the length of both voice and bed. */
export function rideWishes(
  voiceIn: LoudnessIn,
  bedIn: LoudnessIn,
  hops: number,
  speech: readonly SpeechSegment[],
  { clearanceAt, swellLoudness, pauseFrom }: Wanted,
): Wishes {
  const ticks = Math.ceil(hops / TICK_HOPS) + 1
  const sentences = joinSegments(speech, SENTENCE_PAUSE)
    .map(({ start, end }) => stretch(start, end, ticks))
    .filter(({ first, last }) => last > first)
  const nothing = () => new Float64Array(ticks).fill(NaN)
  const wishes: Wishes = {
    sentences,
    aim: nothing(),
    sentence: nothing(),
    phrase: nothing(),
    swell: nothing(),
    onset: nothing(),
    landing: nothing(),
  }
  for (const inside of sentences) {
    for (let tick = inside.first; tick < inside.last; tick++) {
      const at = tick * TICK
      const aim = around(voiceIn, at, SHORT_TERM, inside) - clearanceAt(tick)
      const under = around(bedIn, at, SHORT_TERM, inside)
      const now = around(bedIn, at, MOMENTARY, inside)
      wishes.aim[tick] = aim
      if (under >= BED_SILENCE) wishes.sentence[tick] = aim - under
      if (now >= Math.max(BED_SILENCE, under - GAP)) wishes.phrase[tick] = aim - now
    }
    capOnset(wishes, inside, bedIn)
  }
  for (const pause of longPauses(sentences, pauseFrom + FOUND_LATE, ticks)) swellIn(wishes, pause, swellLoudness, bedIn)
  return wishes
}

const stretch = (start: Seconds, end: Seconds, ticks: number): Stretch => ({
  start,
  end,
  first: Math.max(0, Math.ceil(start / TICK - 1e-6)),
  last: Math.min(ticks, Math.ceil(end / TICK - 1e-6)),
})

/** Ungated loudness between two moments. */
export type LoudnessIn = (from: Seconds, to: Seconds) => Lufs

/** Loudness around a moment, as far as that lies inside a stretch. */
export const around = (loudness: LoudnessIn, at: Seconds, length: Seconds, { start, end }: Stretch): Lufs =>
  loudness(Math.max(start, at - length / 2), Math.min(end, at + length / 2))

/** Of any part of a track, at the cost of a subtraction; `sums` is where the track's sums are kept: one more than it has hops. */
export function loudnessWithin(track: LoudnessTrack, sums = new Float64Array(track.length + 1)): LoudnessIn {
  for (let h = 0, sum = 0; h < track.length; h++) sums[h + 1] = sum += track[h]!
  const hop = (time: Seconds) => Math.min(track.length, Math.max(0, Math.round(time / HOP)))
  return (from, to) => {
    const [first, last] = [hop(from), hop(to)]
    return last > first ? loudnessOf(Math.max(1e-12, (sums[last]! - sums[first]!) / (last - first))) : -Infinity
  }
}

/** Pauses long enough to swell in, also before the first and after the last word. */
function longPauses(sentences: readonly Stretch[], from: Seconds, ticks: number): Stretch[] {
  const starts = [0, ...sentences.map(({ end }) => end)]
  const ends = [...sentences.map(({ start }) => start), ticks * TICK]
  return starts
    .map((start, i) => stretch(start, ends[i]!, ticks))
    .filter(({ start, end }) => end - start >= from - 1e-6)
}

function capOnset({ aim, onset }: Wishes, { start, first }: Stretch, bedIn: LoudnessIn): void {
  let loudest = -Infinity
  for (let at = start + ONSET.window.first; at <= start + ONSET.window.last + 1e-6; at += TICK / 2)
    loudest = Math.max(loudest, bedIn(at, at + MOMENTARY))
  if (loudest < BED_SILENCE) return
  const from = Math.max(0, Math.ceil((start - ONSET.before) / TICK))
  const to = Math.min(onset.length, Math.ceil((start + ONSET.after) / TICK))
  for (let tick = from; tick < to; tick++) onset[tick] = aim[first]! - loudest + ONSET.louder
}

function swellIn({ sentence, swell, landing }: Wishes, pause: Stretch, loudness: Lufs, bedIn: LoudnessIn): void {
  const { end, first, last } = pause
  for (let tick = first; tick < last; tick++) {
    const under = around(bedIn, tick * TICK, SHORT_TERM, pause)
    if (under >= BED_SILENCE) swell[tick] = loudness - under
  }
  const beginning = sentence.subarray(last, last + Math.round(LANDING.foresight / TICK))
  const coming: Decibels = beginning.reduce((least, wish) => (wish < least ? wish : least), Infinity)
  const from = Math.ceil((end - LANDING.length) / TICK)
  for (let tick = Math.max(first, from); tick < last; tick++) landing[tick] = coming + LANDING.louder
}
