import type { Seconds } from '@/core/units'
import type { LessonLengths, Passage, RecordingPicture, Step } from '@/core/lesson/document'
import { edgesOf } from '@/core/lesson/layout'

/** Shorter scenes are a flicker and stay with the one before. */
const SHORTEST: Seconds = 1

/** A recording as one part a scene; `scenes` are the moments at which the picture changes, in the file's time. */
export function splitAtScenes(picture: RecordingPicture, scenes: readonly Seconds[]): RecordingPicture[] {
  const edges = [picture.from]
  for (const at of scenes) if (at - edges.at(-1)! >= SHORTEST && picture.to - at >= SHORTEST) edges.push(at)
  return edges.map((from, i) => {
    const to = edges[i + 1] ?? picture.to
    const cuts = picture.cuts
      .map((cut) => ({ from: Math.max(from, cut.from), to: Math.min(to, cut.to) }))
      .filter((cut) => cut.to > cut.from)
    return { ...picture, from, to, cuts, pins: picture.pins.filter(({ at }) => at >= from && at < to) }
  })
}

/** One part of a step that becomes several. */
export interface StepPart {
  /** Of the step that is made; the first part stays in its own. */
  id: string
  picture: RecordingPicture
  /** Where in the step it begins, and what of the script belongs to it from there on. */
  at: Seconds
  scriptAt: number
}

/** The steps that come of one: each part gets what is said while it is seen. */
export function splitStep(step: Step, parts: readonly StepPart[], lengths: LessonLengths): Step[] {
  const { leadIn, tail } = edgesOf(step, lengths)
  return parts.map((part, i): Step => {
    const next = parts[i + 1]
    const [from, to] = [part.at, next?.at ?? Infinity]
    const first = i === 0
    const stays = part.picture.to - part.picture.from
    return {
      ...step,
      id: first ? step.id : part.id,
      picture: part.picture,
      script: step.script.slice(first ? 0 : part.scriptAt, next?.scriptAt).trim(),
      length: { kind: 'voice', atLeast: stays },
      leadIn: first ? leadIn : 0,
      tail: next ? 0 : tail,
      passages: passagesWithin(step, leadIn, from, to, part.id),
      more: first ? step.more : [],
      layers: first ? step.layers : [],
      edge: next ? null : step.edge,
      chapter: first ? step.chapter : goesOn(step.chapter),
    }
  })
}

/** A step that goes on with what the one before shows begins no chapter of its own. */
export const goesOn = (chapter: Step['chapter']): Step['chapter'] => chapter && { begins: false, title: '' }

/** What is said between two moments of a step. */
function passagesWithin(step: Step, leadIn: Seconds, from: Seconds, to: Seconds, id: string): Passage[] {
  let at = leadIn
  return step.passages.flatMap((passage, i) => {
    at += passage.pause
    const start = at
    at += passage.to - passage.from
    const [first, last] = [Math.max(start, from), Math.min(at, to)]
    if (last - first < 0.01) return []
    const part = { from: passage.from + first - start, to: passage.from + last - start }
    return [{ ...passage, ...part, ...(first > start && { id: `${id}-${i}`, pause: 0 }) }]
  })
}
