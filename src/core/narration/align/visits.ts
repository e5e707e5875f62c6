import { distance, type TakeFrames } from './path'
import { sentenceAtFrame, type Reference } from './reference'

/** One run of a path through (a part of) one sentence: take frames `from` to `to`, without pauses around it. */
export interface Visit {
  sentence: number
  from: number
  to: number
  /** Frames of the reference: its first, and one past its last. */
  first: number
  last: number
  /** Share of the sentence's frames that was passed through. */
  coverage: number
  /** Mean distance of its frames. */
  distance: number
}

/** All runs of a path, in the order in which they are said. */
export function visitsOf(path: Int32Array, take: TakeFrames, reference: Reference): Visit[] {
  const { sentenceAt } = reference
  const visits: Visit[] = []
  let last = -1
  let seen = 0
  for (let t = 0; t < path.length; t++) {
    const at = path[t]!
    if (at < 0) continue
    const sentence = sentenceAtFrame(sentenceAt, at)
    const open = visits.at(-1)
    const value = distance(take.features, t, reference.features, at)
    if (open && open.sentence === sentence && at >= last) {
      open.distance += value
      open.to = t + 1
      seen++
      open.last = at + 1
      open.coverage = coverageOf(sentence, at, sentenceAt)
    } else {
      if (open) open.distance /= seen
      const coverage = coverageOf(sentence, at, sentenceAt)
      visits.push({ sentence, from: t, to: t + 1, first: at, last: at + 1, coverage, distance: value })
      seen = 1
    }
    last = at
  }
  const open = visits.at(-1)
  if (open) open.distance /= seen
  return visits
}

const coverageOf = (s: number, frame: number, sentenceAt: Int32Array) =>
  (frame + 1 - sentenceAt[s]!) / (sentenceAt[s + 1]! - sentenceAt[s]!)
