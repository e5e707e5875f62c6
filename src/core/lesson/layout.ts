import type { Seconds } from '@/core/units'
import { DEFAULT_STAY, type BedCue, type Lesson, type Passage, type Step } from './document'

/** Where everything stands in lesson time: computed from the document's anchors, never stored. */
export interface Timeline {
  steps: StepSpan[]
  passages: PassageSpan[]
  beds: BedSpan[]
  length: Seconds
}

export interface StepSpan {
  step: Step
  index: number
  start: Seconds
  end: Seconds
  /** How far the words run past a picture of fixed length; that much of them is not heard. */
  overrun: Seconds
}

export interface PassageSpan {
  passage: Passage
  step: Step
  /** `end` is earlier than the passage would need where the picture ends first. */
  start: Seconds
  end: Seconds
}

export interface BedSpan {
  cue: BedCue
  start: Seconds
  end: Seconds
}

/** Turns anchors into lesson time. Steps follow each other without gap or overlap. */
export function layoutLesson(lesson: Lesson): Timeline {
  const steps: StepSpan[] = []
  const passages: PassageSpan[] = []
  let start: Seconds = 0
  lesson.steps.forEach((step, index) => {
    const end = start + stepLength(step)
    const voiceEnd = layPassages(step, start, end, passages)
    steps.push({ step, index, start, end, overrun: Math.max(0, voiceEnd - end) })
    start = end
  })
  return { steps, passages, beds: layBeds(lesson, steps, start), length: start }
}

/** How long a step stays. */
export function stepLength(step: Step): Seconds {
  if (step.length.kind === 'fixed') return step.length.length
  const words = step.passages.length > 0 ? step.leadIn + voiceLength(step) + step.tail : DEFAULT_STAY
  return Math.max(step.length.atLeast, words)
}

export const voiceLength = (step: Step): Seconds =>
  step.passages.reduce((sum, { from, to, pause }) => sum + pause + to - from, 0)

/** The step that is seen at `time`; the last one from the lesson's end on. Undefined in a lesson without steps. */
export function stepAt(timeline: Timeline, time: Seconds): StepSpan | undefined {
  let low = 0
  let high = timeline.steps.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (timeline.steps[middle]!.start <= time) low = middle
    else high = middle - 1
  }
  return timeline.steps[low]
}

/**
 * The same moment after the lesson has changed: same step, same distance from its start.
 * If the step is gone, the place where it stood.
 */
export function carryOver(before: Timeline, after: Timeline, time: Seconds): Seconds {
  const old = stepAt(before, time)
  if (!old) return 0
  const now = after.steps.find(({ step }) => step.id === old.step.id)
  const moved = now ? Math.min(now.start + time - old.start, now.end) : (after.steps[old.index]?.start ?? after.length)
  return Math.min(moved, after.length)
}

/** Lays a step's passages one after the other and returns where they would end. */
function layPassages(step: Step, start: Seconds, end: Seconds, out: PassageSpan[]): Seconds {
  let at = start + step.leadIn
  for (const passage of step.passages) {
    at += passage.pause
    const wanted = at + passage.to - passage.from
    if (at < end) out.push({ passage, step, start: at, end: Math.min(wanted, end) })
    at = wanted
  }
  return at
}

/** A bed plays from its step until the next bed starts, or to the lesson's end. */
function layBeds(lesson: Lesson, steps: StepSpan[], length: Seconds): BedSpan[] {
  const starts = new Map(steps.map(({ step, start }) => [step.id, start]))
  const cues = lesson.bedCues
    .filter((cue) => starts.has(cue.step))
    .map((cue) => ({ cue, start: starts.get(cue.step)! }))
    .sort((a, b) => a.start - b.start)
  return cues.map(({ cue, start }, i) => ({ cue, start, end: cues[i + 1]?.start ?? length }))
}
