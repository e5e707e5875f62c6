import { clamp } from '@/core/units'
import { beliefs } from './belief'
import type { AlignedSentence, AlignedWord, Alignment, ExtraSpeech } from './alignment'
import { timeOfFrame } from './mel'
import { distance, type TakeFrames } from './path'
import type { Reference, ReferenceGraph } from './reference'
import { visitsOf, type Visit } from './visits'
import { reachWithin, spokenPart } from './warp'

/** Less of a sentence than this is a try that was broken off. */
const COMPLETE = 0.75
/** A try is as good as one before it where it is believed and fits nearly as well, and comes as far, but for a share. */
const AS_GOOD = { belief: 0.1, distance: 1.1, reach: 0.94 }
/**
 * A visit that fits this much worse than its surroundings is something else that happens to lie there: so many times
 * the usual deviation of this voice, within these bounds. Short visits vary more.
 */
const WORSE = { deviations: 5, least: 0.1, most: 0.3, shortUnder: 120 }
const SURROUNDINGS = 12
/** How sure it must be that a visit's words are said (see belief.ts), and where it fits worse than its surroundings. */
const BELIEVED = 0.5
const CONVINCED = 0.95
/** What is as near as this is the same words, whatever its surroundings: a take read by the reference's own engine. */
const CERTAIN = 3
/** Speech outside the script that is worth telling, in frames. */
const LEAST_EXTRA = 30
const SAME_EXTRA = 60

/** Puts a path at 10 ms into words, sentences and what was said besides. */
export function describeAlignment(path: Int32Array, take: TakeFrames, reference: Reference): Alignment {
  const visits = visitsOf(path, take, reference)
  const usual = surroundings(visits)
  const fits = fittest(visits, usual)
  const belief = beliefs(visits, path, take, reference)
  const isSaid = (visit: Visit) => belief.get(visit)! >= (fits(visit) ? BELIEVED : CONVINCED)
  const complete = visits.filter((visit) => visit.coverage >= COMPLETE && isSaid(visit))
  const used = lastGood(complete, take, (visit) => belief.get(visit)!)
  const sentences = reference.sentenceAt.length - 1
  const words: AlignedWord[] = []
  const spoken: AlignedSentence[] = []
  for (let s = 0; s < sentences; s++) {
    const visit = used.get(s)
    if (!visit) spoken.push({ sentence: s, status: 'skipped' })
    else spoken.push(describeSentence(visit, path, take, reference, usual(visit), belief.get(visit)!, words))
  }
  // A try is not heard, so what is taken for one has to be one by every measure.
  const isTry = (visit: Visit) => belief.get(visit)! >= BELIEVED && fits(visit)
  return { words, sentences: spoken, extra: extrasOf(visits, used, isTry, path, take) }
}

/** Of the tries of each sentence the last one, unless it is clearly worse than one before it, or breaks off before that ends. */
function lastGood(tries: readonly Visit[], take: TakeFrames, belief: (visit: Visit) => number): Map<number, Visit> {
  const used = new Map<number, Visit>()
  for (const visit of tries) {
    const before = used.get(visit.sentence)
    const isAsGood =
      before === undefined ||
      (belief(visit) >= belief(before) - AS_GOOD.belief &&
        visit.distance <= before.distance * AS_GOOD.distance &&
        reachWithin(spokenPart(take, visit), spokenPart(take, before)) >= AS_GOOD.reach)
    if (isAsGood) used.set(visit.sentence, visit)
  }
  return used
}

export function nothingSaid({ sentenceAt }: ReferenceGraph): Alignment {
  const sentences = Array.from({ length: sentenceAt.length - 1 }, (_, s) => ({
    sentence: s,
    status: 'skipped' as const,
  }))
  return { words: [], sentences, extra: [] }
}

/** The usual distance of this voice around a visit: the median of those before and after it. */
function surroundings(visits: readonly Visit[]): (visit: Visit) => number {
  const places = new Map(visits.map((visit, i) => [visit, i]))
  return (visit) => {
    const i = places.get(visit)!
    const near = visits.slice(Math.max(0, i - SURROUNDINGS), i + SURROUNDINGS + 1).map((one) => one.distance)
    return near.sort((a, b) => a - b)[near.length >> 1]!
  }
}

/** Tells whether a visit fits about as well as others of this voice do. */
function fittest(visits: readonly Visit[], usual: (visit: Visit) => number): (visit: Visit) => boolean {
  const deviations = visits.map((visit) => Math.abs(visit.distance / usual(visit) - 1)).sort((a, b) => a - b)
  const limit = clamp(WORSE.deviations * (deviations[deviations.length >> 1] ?? 0), WORSE.least, WORSE.most)
  return (visit) => {
    const allowance = Math.sqrt(Math.max(1, WORSE.shortUnder / (visit.to - visit.from)))
    return visit.distance <= CERTAIN || visit.distance / usual(visit) - 1 <= limit * allowance
  }
}

function describeSentence(
  visit: Visit,
  path: Int32Array,
  take: TakeFrames,
  reference: Reference,
  usual: number,
  belief: number,
  words: AlignedWord[],
): AlignedSentence {
  const { sentence } = visit
  const runs: { word: number; from: number; to: number; sum: number; count: number }[] = []
  for (let t = visit.from; t < visit.to; t++) {
    const at = path[t]!
    if (at < 0) continue
    const word = reference.word[at]!
    const value = distance(take.features, t, reference.features, at)
    const open = runs.at(-1)
    if (open?.word === word) {
      open.to = t + 1
      open.sum += value
      open.count++
    } else runs.push({ word, from: t, to: t + 1, sum: value, count: 1 })
  }
  const own = runs.map(({ word, from, to, sum, count }) => {
    const confidence = confidenceOf(sum / count, usual, belief)
    return { word, sentence, start: timeOfFrame(from), end: timeOfFrame(to), confidence }
  })
  words.push(...withAllWords(own, sentence, reference))
  const confidence = own.reduce((sum, one) => sum + one.confidence, 0) / own.length
  return { sentence, status: 'spoken', start: own[0]!.start, end: own.at(-1)!.end, confidence }
}

/** A word that the path leapt over gets no time of its own, but it has its place. */
function withAllWords(own: readonly AlignedWord[], sentence: number, { wordAt }: Reference): AlignedWord[] {
  const found = new Map(own.map((one) => [one.word, one]))
  const all: AlignedWord[] = []
  for (let word = wordAt[sentence]!; word < wordAt[sentence + 1]!; word++) {
    const at = all.at(-1)?.end ?? own[0]!.start
    all.push(found.get(word) ?? { word, sentence, start: at, end: at, confidence: 0 })
  }
  return all
}

/**
 * How likely a word is within 150 ms of its place, given that its sentence is said. Measured with three readers: .97 of the
 * words that fit as their surroundings do, and .85 of those that fit as chance would, in noise.
 */
function confidenceOf(value: number, usual: number, belief: number): number {
  const fit = clamp(1 - (value / Math.max(usual, CERTAIN) - 0.95) * 2.2, 0, 1)
  return belief * (0.85 + 0.12 * fit)
}

/** Visits that are not used, and speech that belongs to no visit. */
function extrasOf(
  visits: readonly Visit[],
  used: ReadonlyMap<number, Visit>,
  isTry: (visit: Visit) => boolean,
  path: Int32Array,
  { speech }: TakeFrames,
): ExtraSpeech[] {
  const extra: ExtraSpeech[] = []
  for (const visit of visits) {
    if (used.get(visit.sentence) === visit || visit.to - visit.from < LEAST_EXTRA) continue
    const times = { start: timeOfFrame(visit.from), end: timeOfFrame(visit.to) }
    extra.push(isTry(visit) ? { kind: 'retake', ...times, sentence: visit.sentence } : { kind: 'ad-lib', ...times })
  }
  for (const { from, to } of unexplained(path, speech))
    extra.push({ kind: 'ad-lib', start: timeOfFrame(from), end: timeOfFrame(to) })
  return extra.sort((a, b) => a.start - b.start)
}

/** Stretches in which somebody speaks while the path pauses. */
function unexplained(path: Int32Array, speech: Float32Array): { from: number; to: number }[] {
  const runs: { from: number; to: number; spoken: number }[] = []
  for (let t = 0; t < path.length; t++) {
    if (path[t]! >= 0 || speech[t]! < 0.5) continue
    const run = runs.at(-1)
    if (run && t - run.to < SAME_EXTRA && path.subarray(run.to, t).every((at) => at < 0)) {
      run.to = t + 1
      run.spoken++
    } else runs.push({ from: t, to: t + 1, spoken: 1 })
  }
  return runs.filter(({ spoken }) => spoken >= LEAST_EXTRA)
}
