import { nanoid } from 'nanoid'
import type { Nudge } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { nudgeAt } from '@/core/bed/nudges'
import { clamp, type Decibels, type Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { timelineOf, type LessonState } from '../lesson/lessonStore'

/** The music goes over to its other level in a step within this time. */
const FADE: Seconds = 1

/** As far as a point can be pushed. */
const bounded = (gain: Decibels): Decibels => clamp(gain, -60, 24)

/**
 * The edits by which the music is so much louder or softer in the caret's step, by points of the hand-made line: those that
 * lie in the step already are moved, otherwise a plateau is put in. A sentence where there is nothing to change.
 */
export function bedInStep(state: LessonState, by: Decibels): Edit[] | string {
  const timeline = timelineOf(state.history.lesson)
  const index = timeline.steps.findIndex(({ step }) => step.id === state.caret?.step)
  const span = timeline.steps[index]
  if (!span) return say('words.selectTheStepFirst')
  if (!timeline.beds.some(({ start, end }) => start < span.end && end > span.start)) return say('words.thereIsNoMusic')
  const inside = timeline.nudges.filter(({ at }) => at > span.start + 1e-6 && at < span.end - 1e-6)
  if (inside.length > 0)
    return [{ name: 'setNudges', nudges: inside.map(({ nudge }) => ({ ...nudge, gain: bounded(nudge.gain + by) })) }]
  const next = timeline.steps[index + 1]
  const fade = Math.min(FADE, (span.end - span.start) / 3)
  const atStart = (offset: Seconds): Nudge['anchor'] => ({ kind: 'step', step: span.step.id, offset })
  /** What hangs on the next step stays at this one's end, however long it becomes. */
  const atEnd = (offset: Seconds): Nudge['anchor'] =>
    next ? { kind: 'step', step: next.step.id, offset } : atStart(span.end - span.start + offset)
  const [before, after] = [nudgeAt(timeline.nudges, span.start), nudgeAt(timeline.nudges, span.end)]
  const point = (anchor: Nudge['anchor'], gain: Decibels): Nudge => ({
    id: nanoid(10),
    anchor,
    gain: bounded(gain),
    shape: 'smooth',
  })
  const nudges = [
    point(atStart(0), before),
    point(atStart(fade), before + by),
    point(atEnd(-fade), after + by),
    point(atEnd(0), after),
  ]
  return [{ name: 'setNudges', nudges }]
}
