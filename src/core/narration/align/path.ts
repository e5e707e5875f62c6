import { createDistances } from './distances'
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
 * What has cost `beam` more than the cheapest way so far is given up. Time: frames of the take times the width of the
 * band at most.
 */
export function findPath(
  take: TakeFrames,
  reference: Reference,
  band: Band,
  beam: number,
  costs: PathCosts = PATH_COSTS,
): Path {
  const frames = take.speech.length
  const { sentenceAt } = reference
  const count = sentenceAt.at(-1)!
  const sentences = sentenceAt.length - 1
  const entry = pauseEntries(reference, costs)
  const sentenceOf = new Int32Array(count)
  for (let s = 0; s < sentences; s++) sentenceOf.fill(s, sentenceAt[s], sentenceAt[s + 1])

  // Cost of being at a reference frame, and of pausing after it; two of each, for this take frame and the next.
  let matched = new Float64Array(count).fill(Infinity)
  let paused = new Float64Array(count).fill(Infinity)
  let nextMatched = new Float64Array(count).fill(Infinity)
  let nextPaused = new Float64Array(count).fill(Infinity)
  let before = 0 // The silence before the first word.
  const offsets = new Float64Array(frames + 1)
  for (let t = 0; t < frames; t++) offsets[t + 1] = offsets[t]! + band.high[t]! - band.low[t]! + 1
  const back = new Uint8Array(offsets[frames]!)
  const jumps: Int32Array[] = []
  const distances = createDistances(take.features, reference.features, widestOf(band))
  const bend = costs.bend * take.step
  let cheapest = 0
  // What is still followed: reference frames of the take frame before, and of the one before that.
  let open: Range = { low: 0, high: -1 }
  let stale: Range = open

  for (let t = 0; t < frames; t++) {
    const speech = take.speech[t]!
    const idle = take.step * (costs.silence + (costs.chatter - costs.silence) * speech)
    const limit = cheapest + beam
    const landing = landings(
      { matched, paused, before, sentenceAt, sentenceOf, costs },
      open,
      band.low[t]!,
      band.high[t]!,
    )
    jumps.push(landing.from)
    const reached = reachedFrom(open, landing, sentenceAt, limit)
    const low = Math.max(band.low[t]!, reached.low)
    const high = Math.min(band.high[t]!, reached.high)
    const start = offsets[t]! - band.low[t]!
    const next: Range = { low: count, high: -1 }
    cheapest = before + idle
    const distance = distances(t, low, Math.max(low - 1, high))
    for (let r = low; r <= high; r++) {
      let best = matched[r]! + bend
      let code = STAY
      if (r > 0) {
        if (matched[r - 1]! < best) {
          best = matched[r - 1]!
          code = NEXT
        }
        if (paused[r - 1]! < best) {
          best = paused[r - 1]!
          code = RESUME
        }
        if (r > 1 && matched[r - 2]! + bend < best) {
          best = matched[r - 2]! + bend
          code = LEAP
        }
      }
      const sentence = sentenceOf[r]!
      if (r === sentenceAt[sentence] && landing.cost[sentence - landing.first]! < best) {
        best = landing.cost[sentence - landing.first]!
        code = JUMP
      }
      const value = best < limit ? best + take.step * distance[r - low]! : Infinity
      let rest = paused[r]!
      if (matched[r]! + entry[r]! < rest) {
        rest = matched[r]! + entry[r]!
        code |= ENTER
      }
      rest = rest < limit ? rest + idle : Infinity
      nextMatched[r] = value
      nextPaused[r] = rest
      back[start + r] = code
      const lower = value < rest ? value : rest
      if (lower < Infinity) {
        if (lower < cheapest) cheapest = lower
        if (next.high < 0) next.low = r
        next.high = r
      }
    }
    before += idle
    // The arrays are used in turn: what stands in the older ones from two frames ago must go.
    matched.fill(Infinity, stale.low, stale.high + 1)
    paused.fill(Infinity, stale.low, stale.high + 1)
    matched.fill(Infinity, open.low, open.high + 1)
    paused.fill(Infinity, open.low, open.high + 1)
    stale = open
    open = next
    ;[matched, nextMatched] = [nextMatched, matched]
    ;[paused, nextPaused] = [nextPaused, paused]
  }
  // All ways have been given up, the right one among them: none may be.
  if (open.high < open.low && beam < Infinity) return findPath(take, reference, band, Infinity, costs)
  return traceBack({ matched, paused, before, back, offsets, band, jumps, sentenceAt, sentenceOf, costs, frames })
}

const widestOf = ({ low, high }: Band) => high.reduce((most, value, t) => Math.max(most, value - low[t]! + 1), 1)

/** What it costs to pause after each reference frame; only where a word ends. */
function pauseEntries({ word, sentenceAt, punctuated }: Reference, costs: PathCosts): Float32Array {
  const entry = new Float32Array(word.length).fill(Infinity)
  for (let r = 0; r < word.length - 1; r++) {
    if (word[r] !== word[r + 1]) entry[r] = costs.pause * (punctuated[word[r]!] ? AFTER_COMMA : 1)
  }
  for (let s = 1; s < sentenceAt.length; s++) entry[sentenceAt[s]! - 1] = costs.pause * BETWEEN_SENTENCES
  return entry
}

/** Reference frames from `low` to `high`, inclusive; none where high is less. */
interface Range {
  low: number
  high: number
}

/** Cheapest ways to the beginning of each sentence in the band other than from the one before. `from` is a frame, or -1. */
interface Landings {
  first: number
  cost: Float64Array
  from: Int32Array
}

interface Sources {
  matched: Float64Array
  paused: Float64Array
  before: number
  sentenceAt: Int32Array
  sentenceOf: Int32Array
  costs: PathCosts
}

function landings(sources: Sources, open: Range, low: number, high: number): Landings {
  const { matched, paused, before, sentenceAt, sentenceOf, costs } = sources
  const isOpen = open.high >= open.low
  const first = sentenceOf[isOpen ? Math.min(low, open.low) : low]!
  const last = sentenceOf[isOpen ? Math.max(high, open.high) : high]!
  const cost = new Float64Array(last - first + 1).fill(Infinity)
  const from = new Int32Array(last - first + 1).fill(-1)
  // Forward: sentences are left out after the end of one, or at the take's beginning.
  let ahead = Infinity
  let aheadFrom = -1
  if (first === 0) {
    // The first sentence begins without a jump.
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
  for (let s = isOpen ? sentenceOf[open.high]! : first - 1; s >= first; s--) {
    again += costs.againMore
    const end = sentenceAt[s + 1]! - 1
    const to = Math.min(end, open.high)
    for (let r = Math.max(sentenceAt[s]!, open.low); r <= to; r++) {
      if (paused[r] === Infinity) continue
      const price = paused[r]! + (r === end ? costs.again : costs.again + costs.breakOff)
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

/** What can be reached from the frames that are followed, and by landings that are worth it. */
function reachedFrom(open: Range, { first, cost }: Landings, sentenceAt: Int32Array, limit: number): Range {
  const reached = open.high < open.low ? { low: sentenceAt.at(-1)!, high: -1 } : { low: open.low, high: open.high + 2 }
  for (let i = 0; i < cost.length; i++) {
    if (cost[i]! >= limit) continue
    const at = sentenceAt[first + i]!
    if (at < reached.low) reached.low = at
    if (at > reached.high) reached.high = at
  }
  return reached
}

/** The list of sources, led by the sentence it begins with. */
function withFirst(from: Int32Array, first: number): Int32Array {
  const out = new Int32Array(from.length + 1)
  out[0] = first
  out.set(from, 1)
  return out
}

/** Euclidean distance of two frames. Two sums at once, since each addition waits for the one before it. */
export function distance(a: Float32Array, i: number, b: Float32Array, j: number): number {
  const p = i * FEATURES
  const q = j * FEATURES
  let even = 0
  let odd = 0
  for (let d = 0; d < FEATURES; d += 2) {
    const first = a[p + d]! - b[q + d]!
    const second = a[p + d + 1]! - b[q + d + 1]!
    even += first * first
    odd += second * second
  }
  return Math.sqrt(even + odd)
}

interface Trellis {
  matched: Float64Array
  paused: Float64Array
  before: number
  back: Uint8Array
  offsets: Float64Array
  band: Band
  jumps: Int32Array[]
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
    if (matched[end]! + missing < cost) {
      cost = matched[end]! + missing
      state = end
    }
    if (paused[end]! + missing < cost) {
      cost = paused[end]! + missing
      state = pauseAfter(end)
    }
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
