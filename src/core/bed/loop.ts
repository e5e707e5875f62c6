import { BAND_CENTRES } from '@/core/measure/bands'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { energyOf, loudnessOf } from '@/core/measure/loudness'
import type { Lufs, Seconds } from '@/core/units'

/** One playing of a piece: its part `from`..`to`, placed at `at` after the bed's start, with fades at both ends. */
export interface BedRun {
  at: Seconds
  from: Seconds
  to: Seconds
  fadeIn: Seconds
  fadeOut: Seconds
}

/** Where a piece can go back to an earlier place: at `end` the sound is like that at `start`. */
export interface LoopPoints {
  start: Seconds
  end: Seconds
}

/** A test runner looks globals up slowly; the searches below call these millions of times. */
const { abs, round } = Math

const CROSSFADE: Seconds = 1
/** What is shorter than a beat is played once, as it is: nobody hears it as music that goes on. */
const SHORTEST_LOOP: Seconds = 0.5
/** Longest stretch compared on both sides of a seam. */
const CONTEXT: Seconds = 2

/**
 * Plays a piece for `length`: round between its loop points where it is too short; where it is too long, with a part left
 * out so that it ends with its own ending, if there is a place where that can't be heard, and cut off otherwise.
 */
export function layBed(piece: Analysis, length: Seconds): BedRun[] {
  const whole = analysisLength(piece)
  if (whole < SHORTEST_LOOP) return whole > 0 ? [oneRun(Math.min(whole, length))] : []
  const ending = soundingEnd(piece)
  // Its own ending may come a little early: better than going round for two seconds.
  if (ending >= length - ENDS_EARLY) return shortened(piece, length) ?? [oneRun(Math.min(whole, length))]
  const { start, end } = findLoop(piece)
  const half = Math.min(CROSSFADE, (end - start) / 2) / 2
  const runs: BedRun[] = []
  let at: Seconds = 0
  let from: Seconds = 0
  while (at < length) {
    const first = runs.length === 0
    // The crossfade lies around the loop points, so each run begins half of it early and ends half of it late.
    const to = Math.min(whole, end + half, from + length - at)
    const cut = at + to - from >= length
    runs.push({ at, from, to, fadeIn: first ? 0 : 2 * half, fadeOut: cut ? 0 : 2 * half })
    const gain = to - from - 2 * half
    if (cut || gain <= 0) break
    at += gain
    from = Math.max(0, start - half)
  }
  return runs
}

const oneRun = (to: Seconds): BedRun => ({ at: 0, from: 0, to, fadeIn: 0, fadeOut: 0 })

/** The piece may end so much before its stretch does, where that lets a better seam be found. */
const ENDS_EARLY: Seconds = 2
/** What a second of that is worth against a worse seam. */
const EARLY_COST = 0.3
/** A worse seam than this is heard: then the piece is rather faded. */
const WORST_SEAM = 9
/** Shorter pieces are not worth a part left out. */
const SHORTEST_CUT: Seconds = 8

/** The piece with a stretch left out of its middle; null where no seam is good enough. */
function shortened(piece: Analysis, length: Seconds): BedRun[] | null {
  const whole = analysisLength(piece)
  const spare = whole - length
  if (spare < 1 || length < SHORTEST_CUT) return spare < 1 ? [oneRun(length)] : null
  const cached = cuts.get(piece)?.get(length)
  if (cached !== undefined) return cached
  const level = levels(piece.energy)
  const context = Math.min(CONTEXT, length / 8)
  const reach = reachOf(context)
  let best = { leave: 0, enter: 0, score: Infinity }
  for (let leave = length * 0.25; leave < length * 0.75; leave += 0.1) {
    const left = around(piece, level, leave, reach)
    for (let early = 0; early <= ENDS_EARLY; early += 0.05) {
      const enter = leave + spare + early
      if (enter > whole - 4) break
      const worth = EARLY_COST * early
      const score = worth + seamDifference(piece, left, around(piece, level, enter, reach), best.score - worth)
      if (score < best.score) best = { leave, enter, score }
    }
  }
  const runs =
    best.score > WORST_SEAM ? null : aroundCut(best.leave, refined(level, best.leave, best.enter, context).end, whole)
  const kept = cuts.get(piece) ?? new Map<Seconds, BedRun[] | null>()
  cuts.set(piece, kept.set(length, runs))
  return runs
}

/** Kept, since an analysis never changes and the search takes a moment. */
const cuts = new WeakMap<Analysis, Map<Seconds, BedRun[] | null>>()

function aroundCut(leave: Seconds, enter: Seconds, whole: Seconds): BedRun[] {
  const half = CROSSFADE / 2
  return [
    { at: 0, from: 0, to: leave + half, fadeIn: 0, fadeOut: CROSSFADE },
    { at: leave - half, from: enter - half, to: whole, fadeIn: CROSSFADE, fadeOut: 0 },
  ]
}

/** How well the seams of a laid bed join: 0 can't be told from the piece itself, from about 9 on they are heard. */
export function seamsOf(piece: Analysis, runs: readonly BedRun[]): { at: Seconds; score: number }[] {
  const level = levels(piece.energy)
  const reach = reachOf(CONTEXT)
  return runs.slice(1).map((run, i) => {
    const before = runs[i]!
    const middle = run.fadeIn / 2
    const [left, entered] = [before.to - middle, run.from + middle].map((place) => around(piece, level, place, reach))
    return { at: run.at + middle, score: seamDifference(piece, left!, entered!) }
  })
}

/**
 * The best place to go round: among loop ends in the last part of the piece (before its own ending fades) and
 * starts in its first part, the pair around which level and colour run most alike.
 */
export function findLoop(piece: Analysis): LoopPoints {
  let found = loops.get(piece)
  if (!found) loops.set(piece, (found = searchLoop(piece)))
  return found
}

/** Kept, since an analysis never changes and the search takes a moment. */
const loops = new WeakMap<Analysis, LoopPoints>()

function searchLoop(piece: Analysis): LoopPoints {
  const length = soundingEnd(piece)
  const margin = Math.min(CROSSFADE / 2, length / 8)
  if (length < 6) return { start: margin, end: length - margin }
  const level = levels(piece.energy)
  const context = Math.min(CONTEXT, length / 8)
  const reach = reachOf(context)
  const step = 0.05
  let best: LoopPoints & { score: number } = { start: margin, end: length - margin, score: Infinity }
  const starts: { start: Seconds; sides: Surroundings }[] = []
  for (let start = margin; start < Math.min(length * 0.35, 20); start += step)
    starts.push({ start, sides: around(piece, level, start, reach) })
  for (let end = length - margin; end > Math.max(length * 0.6, length - 20); end -= step) {
    const atEnd = around(piece, level, end, reach)
    for (const { start, sides } of starts) {
      // A longer loop is worth a slightly worse seam: it repeats less often.
      const shortness = 0.02 * (length - (end - start))
      const score = shortness + seamDifference(piece, sides, atEnd, best.score - shortness)
      if (score < best.score) best = { start, end, score }
    }
  }
  const { start, end } = best
  return refined(level, start, end, context)
}

/** How far around a place one looks: offsets each 50 ms for levels, each 100 ms for bands. */
interface Reach {
  fine: Float64Array
  coarse: Float64Array
}

function reachOf(context: Seconds): Reach {
  const every = (step: Seconds) => {
    const offsets: Seconds[] = []
    for (let offset = -context; offset <= context; offset += step) offsets.push(offset)
    return Float64Array.from(offsets)
  }
  return { fine: every(0.05), coarse: every(0.1) }
}

/** What lies around a place. */
interface Surroundings {
  /** dB; NaN beyond the piece. */
  levels: Float32Array
  /** Where the band levels of each moment begin in the analysis; -1 beyond it. */
  bands: Int32Array
}

function around({ bands }: Analysis, level: Float32Array, place: Seconds, { fine, coarse }: Reach): Surroundings {
  const levels = new Float32Array(fine.length)
  for (let i = 0; i < fine.length; i++) levels[i] = level[round((place + fine[i]!) / HOP)] ?? NaN
  const begins = new Int32Array(coarse.length)
  const rows = bands.length / BAND_CENTRES.length
  for (let i = 0; i < coarse.length; i++) {
    const row = round((place + coarse[i]!) * 10)
    begins[i] = row < 0 || row >= rows ? -1 : row * BAND_CENTRES.length
  }
  return { levels, bands: begins }
}

/**
 * How unlike two surroundings of the same length are: mean difference of level (dB) and of band levels (dB). Infinity as
 * soon as it is clear that it is not below `limit`: most pairs are given up after a few values.
 */
function seamDifference({ bands }: Analysis, a: Surroundings, b: Surroundings, limit = Infinity): number {
  const ofLevel = levelDifference(a.levels, b.levels, limit)
  if (ofLevel >= limit) return Infinity
  const most = a.bands.length
  let sum = 0
  let count = 0
  for (let i = 0; i < most; i++) {
    const rowA = a.bands[i]!
    const rowB = b.bands[i]!
    if (rowA < 0 || rowB < 0) continue
    let difference = 0
    for (let k = 4; k < 20; k++) difference += abs(bands[rowA + k]! - bands[rowB + k]!) / 2
    sum += difference / 16
    count++
    // The mean is over no more rows than these.
    if (ofLevel + sum / most >= limit) return Infinity
  }
  return (count > 0 ? sum / count : 60) + ofLevel
}

function levelDifference(a: Float32Array, b: Float32Array, limit: number): number {
  const most = a.length
  let sum = 0
  let count = 0
  for (let i = 0; i < most; i++) {
    const difference = abs(a[i]! - b[i]!)
    if (!(difference >= 0)) continue
    sum += difference
    count++
    if (sum >= limit * most) return Infinity
  }
  return count > 0 ? sum / count : 60
}

/** Moves the loop's end to the hop where the attacks of both sides fall together. */
function refined(level: Float32Array, start: Seconds, end: Seconds, context: Seconds): LoopPoints {
  let best = { end, score: Infinity }
  for (let shift = -0.05; shift <= 0.05; shift += HOP) {
    const score = fineDifference(level, start, end + shift, context)
    if (score < best.score) best = { end: end + shift, score }
  }
  return { start, end: best.end }
}

function fineDifference(level: Float32Array, a: Seconds, b: Seconds, context: Seconds): number {
  const reach = round(context / HOP)
  const first = round(a / HOP)
  const second = round(b / HOP)
  let sum = 0
  let count = 0
  for (let k = -reach; k <= reach; k++) {
    const x = level[first + k]
    const y = level[second + k]
    if (x === undefined || y === undefined) continue
    sum += abs(x - y)
    count++
  }
  return count > 0 ? sum / count : Infinity
}

const levels = (energy: LoudnessTrack) => energy.map((value) => (value > 0 ? Math.max(-70, loudnessOf(value)) : -70))

const sounds = new WeakMap<Analysis, Seconds>()
/** Where a piece begins to sound: what is silent before it is left out when the piece is laid. */
export function soundingStart(piece: Analysis): Seconds {
  let start = sounds.get(piece)
  if (start === undefined) {
    const first = piece.energy.findIndex((energy) => energy > energyOf(LEAD_SILENCE))
    // Parts of an analysis are cut at whole tenths of a second.
    start = Math.max(0, Math.floor(10 * (first * HOP - LEAD_KEPT)) / 10)
    sounds.set(piece, start)
  }
  return start
}

const LEAD_SILENCE: Lufs = -60
/** A breath before the first sound belongs to the piece. */
const LEAD_KEPT: Seconds = 0.3

/** Where the piece's own ending begins to die away: the last moment within 12 dB of its usual level. */
function soundingEnd(piece: Analysis): Seconds {
  const level = levels(piece.energy)
  const usual = Float32Array.from(level).sort()[Math.floor(level.length / 2)] ?? -70
  let last = level.length - 1
  const window = 20
  const recent = (i: number) => level.subarray(Math.max(0, i - window), i + 1).reduce((a, b) => Math.max(a, b), -70)
  while (last > 0 && recent(last) < usual - 12) last--
  return last > 0 ? Math.min(analysisLength(piece), last * HOP) : analysisLength(piece)
}
