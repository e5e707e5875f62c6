import { FEATURES } from './features'
import { distance, findPath, pauseAfter, type TakeFrames } from './path'
import type { Reference } from './reference'
import { visitsOf, type Visit } from './visits'

/** A visit that speaks so much longer than its sentence, and so many frames besides, has something else in it. */
const TOO_LONG = { times: 1.05, frames: 15 }
/** Silence from so many frames on may part a try that was broken off from the next one. */
const SILENCE = 8
/** What is left must be about as long as the sentence, and fit about as well as others of this voice do. */
const LENGTH = { least: 0.72, most: 1.35 }
const FIT = 1.1
/** Two sayings taken for one fit a little better: more frames may choose among the reference's. */
const NO_WORSE = 1.03

/**
 * Where a reader breaks off early, or says something else, and then begins a sentence, the path may take both for one
 * long saying. Looks at each pause within a visit that is too long whether the whole sentence is said after it; what
 * comes before it is then a try of the sentence's beginning, or nothing of the script.
 */
export function withRestarts(path: Int32Array, take: TakeFrames, reference: Reference): Int32Array {
  const visits = visitsOf(path, take, reference)
  const usual = median(visits.map((visit) => visit.distance))
  const out = path.slice()
  for (const visit of visits) restart(out, visit, usual * FIT, take, reference)
  return out
}

function restart(path: Int32Array, visit: Visit, worst: number, take: TakeFrames, reference: Reference): void {
  const [first, end] = [reference.sentenceAt[visit.sentence]!, reference.sentenceAt[visit.sentence + 1]!]
  const length = end - first
  if (spoken(take, visit.from, visit.to) < length * TOO_LONG.times + TOO_LONG.frames) return
  let best: { at: number; fit: Fit } | null = null
  for (const at of pauseEnds(take, visit.from, visit.to)) {
    const left = spoken(take, at, visit.to)
    if (left < length * LENGTH.least || left > length * LENGTH.most) continue
    const fit = fitOf(take, at, visit.to, reference, first, end)
    if (fit.distance <= Math.min(worst, visit.distance * NO_WORSE) && fit.distance < (best?.fit.distance ?? Infinity))
      best = { at, fit }
  }
  if (!best) return
  const tried = Math.min(length, Math.max(1, spoken(take, visit.from, best.at)))
  const before = fitOf(take, visit.from, best.at, reference, first, first + tried)
  if (before.distance <= worst) path.set(before.path, visit.from)
  else path.fill(pauseBefore(first), visit.from, best.at)
  path.set(best.fit.path, best.at)
}

interface Fit {
  path: Int32Array
  /** Mean distance of the frames that are matched. */
  distance: number
}

/** The best way of a stretch of the take through a stretch of the reference, from its beginning to its end. */
function fitOf(take: TakeFrames, from: number, to: number, reference: Reference, first: number, end: number): Fit {
  const part: TakeFrames = {
    features: take.features.subarray(from * FEATURES, to * FEATURES),
    speech: take.speech.subarray(from, to),
    step: take.step,
  }
  const sentence: Reference = {
    ...reference,
    features: reference.features.subarray(first * FEATURES, end * FEATURES),
    word: reference.word.subarray(first, end),
    sentenceAt: Int32Array.from([0, end - first]),
  }
  const band = { low: new Int32Array(to - from), high: new Int32Array(to - from).fill(end - first - 1) }
  const { at } = findPath(part, sentence, band, Infinity)
  let [sum, count] = [0, 0]
  at.forEach((r, t) => {
    if (r < 0) return
    sum += distance(part.features, t, sentence.features, r)
    count++
  })
  const moved = at.map((r) => (r >= 0 ? r + first : r === -1 ? pauseBefore(first) : r - first))
  return { path: moved, distance: count > 0 ? sum / count : Infinity }
}

const pauseBefore = (first: number) => (first > 0 ? pauseAfter(first - 1) : -1)

const spoken = ({ speech }: TakeFrames, from: number, to: number): number => {
  let sum = 0
  for (let t = from; t < to; t++) sum += speech[t]!
  return Math.round(sum)
}

/** Where somebody speaks again after a silence. */
function pauseEnds({ speech }: TakeFrames, from: number, to: number): number[] {
  const ends: number[] = []
  let silent = 0
  for (let t = from; t < to; t++) {
    if (speech[t]! >= 0.5 && silent >= SILENCE) ends.push(t)
    silent = speech[t]! < 0.5 ? silent + 1 : 0
  }
  return ends
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 0
