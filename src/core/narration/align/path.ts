import { FEATURES } from './features'
import type { Reference } from './reference'

/** A take in frames: what they sound like, and how much of each is speech, 0..1. */
export interface TakeFrames {
  features: Float32Array
  speech: Float32Array
  /** Length of a frame in 10 ms. */
  step: number
}

/** Which reference frames are looked at while take frame `t` is: from `low` to `high`, inclusive. */
export interface Band {
  low: Int32Array
  high: Int32Array
}

/** For each take frame: the reference frame that matches it, or PAUSE + the frame after which a pause is. */
export interface Path {
  at: Int32Array
  cost: number
}

/** In `Path.at` a pause after reference frame r is written as -2 - r; -1 is the silence before the first word. */
export const pauseAfter = (frame: number) => -2 - frame

/** Costs, in feature distances of one 10 ms frame. The distance of matching frames is about 5, of others about 7. */
export interface PathCosts {
  /** A frame that stays on the same reference frame, or leaves one out. */
  bend: number
  /** A frame of a pause: silent, and speaking. */
  silence: number
  chatter: number
  /** A pause between two words of a sentence; after a comma and between sentences it costs less. */
  pause: number
  /** Leaving a sentence out, and each further one. */
  skip: number
  skipMore: number
  /** Beginning a sentence again, and each sentence further back. */
  again: number
  againMore: number
  /** Breaking off within a sentence, before it is begun again. */
  breakOff: number
}

export const PATH_COSTS: PathCosts = {
  bend: 0.6,
  silence: 1.2,
  chatter: 7,
  pause: 10,
  skip: 60,
  skipMore: 10,
  again: 90,
  againMore: 20,
  breakOff: 30,
}
const AFTER_COMMA = 0.4
const BETWEEN_SENTENCES = 0.05

const STAY = 0
const NEXT = 1
const LEAP = 2
const RESUME = 3
const JUMP = 4
const ENTER = 8

/**
 * The cheapest way through a script for a take (Viterbi search). The take moves through the reference frame by frame,
 * may linger or leave one out, pauses at the ends of words, leaves out sentences and begins them again.
 * Time: frames of the take times the width of the band.
 */
export function findPath(take: TakeFrames, reference: Reference, band: Band, costs: PathCosts = PATH_COSTS): Path {
  const frames = take.speech.length
  const { sentenceAt } = reference
  const count = sentenceAt.at(-1)!
  const sentences = sentenceAt.length - 1
  const entry = pauseEntries(reference, costs)
  const sentenceOf = new Int32Array(count)
  for (let s = 0; s < sentences; s++) sentenceOf.fill(s, sentenceAt[s], sentenceAt[s + 1])

  let matched = new Float32Array(count).fill(Infinity)
  let paused = new Float32Array(count).fill(Infinity)
  let nextMatched = new Float32Array(count).fill(Infinity)
  let nextPaused = new Float32Array(count).fill(Infinity)
  let before = 0 // The silence before the first word.
  const offsets = new Float64Array(frames + 1)
  for (let t = 0; t < frames; t++) offsets[t + 1] = offsets[t]! + band.high[t]! - band.low[t]! + 1
  const back = new Uint8Array(offsets[frames]!)
  const jumps: (Int32Array | null)[] = []
  const bend = costs.bend * take.step

  for (let t = 0; t < frames; t++) {
    const low = band.low[t]!
    const high = band.high[t]!
    const speech = take.speech[t]!
    const idle = take.step * (costs.silence + (costs.chatter - costs.silence) * speech)
    const landing = landings(matched, paused, before, sentenceAt, sentenceOf, low, high, band, t, costs)
    jumps.push(landing?.from ?? null)
    const start = offsets[t]! - low
    for (let r = low; r <= high; r++) {
      let best = matched[r]! + bend
      let code = STAY
      if (r > 0) {
        const next = matched[r - 1]!
        if (next < best) ((best = next), (code = NEXT))
        const resume = paused[r - 1]!
        if (resume < best) ((best = resume), (code = RESUME))
        if (r > 1 && matched[r - 2]! + bend < best) ((best = matched[r - 2]! + bend), (code = LEAP))
      }
      if (landing && r === sentenceAt[sentenceOf[r]!]) {
        const jump = landing.cost[sentenceOf[r]! - landing.first]!
        if (jump < best) ((best = jump), (code = JUMP))
      }
      const value = best < Infinity ? best + take.step * distance(take.features, t, reference.features, r) : Infinity
      nextMatched[r] = value
      let rest = paused[r]!
      const enter = matched[r]! + entry[r]!
      if (enter < rest) ((rest = enter), (code |= ENTER))
      nextPaused[r] = rest + idle
      back[start + r] = code
    }
    before += idle
    // Both arrays hold two bands in turn; what the next one does not cover must not be found there.
    if (t > 0) {
      matched.fill(Infinity, band.low[t - 1], band.high[t - 1]! + 1)
      paused.fill(Infinity, band.low[t - 1], band.high[t - 1]! + 1)
    }
    ;[matched, nextMatched] = [nextMatched, matched]
    ;[paused, nextPaused] = [nextPaused, paused]
  }
  return traceBack({ matched, paused, before, back, offsets, band, jumps, sentenceAt, sentenceOf, costs, frames })
}

/** What it costs to pause after each reference frame; only where a word ends. */
function pauseEntries({ word, sentenceAt, punctuated }: Reference, costs: PathCosts): Float32Array {
  const entry = new Float32Array(word.length).fill(Infinity)
  for (let r = 0; r < word.length - 1; r++) {
    if (word[r] !== word[r + 1]) entry[r] = costs.pause * (punctuated[word[r]!] ? AFTER_COMMA : 1)
  }
  for (let s = 1; s < sentenceAt.length; s++) entry[sentenceAt[s]! - 1] = costs.pause * BETWEEN_SENTENCES
  return entry
}

/** Cheapest ways to the beginning of each sentence in the band other than from the one before. `from` is a frame, or -1. */
interface Landings {
  first: number
  cost: Float64Array
  from: Int32Array
}

function landings(
  matched: Float32Array,
  paused: Float32Array,
  before: number,
  sentenceAt: Int32Array,
  sentenceOf: Int32Array,
  low: number,
  high: number,
  band: Band,
  t: number,
  costs: PathCosts,
): Landings | null {
  const oldLow = t > 0 ? band.low[t - 1]! : 0
  const oldHigh = t > 0 ? band.high[t - 1]! : -1
  const first = sentenceOf[Math.min(low, Math.max(0, oldLow))]!
  const last = sentenceOf[Math.max(high, oldHigh)]!
  const size = last - first + 1
  const cost = new Float64Array(size).fill(Infinity)
  const from = new Int32Array(size).fill(-1)
  // Forward: sentences are left out after the end of one, or at the take's beginning.
  let ahead = first === 0 ? before : Infinity
  let aheadFrom = -1
  // The first sentence begins without a jump; the others after as many as are left out.
  if (first === 0) {
    cost[0] = before
    ahead = before + costs.skip
  }
  for (let s = first + 1; s <= last; s++) {
    if (ahead < cost[s - first]!) {
      cost[s - first] = ahead
      from[s - first] = aheadFrom
    }
    // From the end of the sentence before, `s + 1` is reached by leaving out `s`.
    const end = sentenceAt[s]! - 1
    ahead += costs.skipMore
    const fresh = Math.min(paused[end]!, matched[end]!) + costs.skip
    if (fresh < ahead) {
      ahead = fresh
      aheadFrom = end
    }
  }
  // Backward: a sentence is begun again, from its end or from within it.
  let again = Infinity
  let againFrom = -1
  for (let s = last; s >= first; s--) {
    again += costs.againMore
    const to = Math.min(sentenceAt[s + 1]!, oldHigh + 1)
    for (let r = Math.max(sentenceAt[s]!, oldLow); r < to; r++) {
      const price = paused[r]! + (r === sentenceAt[s + 1]! - 1 ? costs.again : costs.again + costs.breakOff)
      if (price < again) {
        again = price
        againFrom = r
      }
    }
    if (again < cost[s - first]!) {
      cost[s - first] = again
      from[s - first] = againFrom
    }
  }
  return { first, cost, from: withFirst(from, first) }
}

/** The list of sources, led by the sentence it begins with. */
function withFirst(from: Int32Array, first: number): Int32Array {
  const out = new Int32Array(from.length + 1)
  out[0] = first
  out.set(from, 1)
  return out
}

/** Euclidean distance of two frames. */
export function distance(a: Float32Array, i: number, b: Float32Array, j: number): number {
  let sum = 0
  for (let d = 0, p = i * FEATURES, q = j * FEATURES; d < FEATURES; d++, p++, q++) {
    const difference = a[p]! - b[q]!
    sum += difference * difference
  }
  return Math.sqrt(sum)
}

interface Trellis {
  matched: Float32Array
  paused: Float32Array
  before: number
  back: Uint8Array
  offsets: Float64Array
  band: Band
  jumps: (Int32Array | null)[]
  sentenceAt: Int32Array
  sentenceOf: Int32Array
  costs: PathCosts
  frames: number
}

/** From the cheapest end back to the beginning. A take may end before the script does. */
function traceBack(trellis: Trellis): Path {
  const { matched, paused, before, back, offsets, band, jumps, sentenceAt, sentenceOf, costs, frames } = trellis
  const sentences = sentenceAt.length - 1
  let cost = before + costs.skip + costs.skipMore * sentences
  let state = -1
  for (let s = 0; s < sentences; s++) {
    const end = sentenceAt[s + 1]! - 1
    const left = sentences - 1 - s
    const missing = left > 0 ? costs.skip + costs.skipMore * left : 0
    if (matched[end]! + missing < cost) ((cost = matched[end]! + missing), (state = end))
    if (paused[end]! + missing < cost) ((cost = paused[end]! + missing), (state = pauseAfter(end)))
  }
  const at = new Int32Array(frames)
  for (let t = frames - 1; t >= 0; t--) {
    at[t] = state
    if (state === -1) continue
    const code = back[offsets[t]! + (state >= 0 ? state : -2 - state) - band.low[t]!]!
    if (state < -1) {
      if (code & ENTER) state = -2 - state
      continue
    }
    const way = code & 7
    if (way === NEXT) state -= 1
    else if (way === LEAP) state -= 2
    else if (way === RESUME) state = pauseAfter(state - 1)
    else if (way === JUMP) {
      const list = jumps[t]!
      const source = list[sentenceOf[state]! - list[0]! + 1]!
      state = source < 0 ? -1 : pauseAfter(source)
    }
  }
  return { at, cost }
}
