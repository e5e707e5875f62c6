import type { Anchor, Nudge } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { stepAt } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import { clamp, type Decibels, type Seconds } from '@/core/units'
import { nudgeAt } from './nudges'

/** A stretch of another level in the hand-made line. */

/** Length of the fades into and out of it. */
const FADE: Seconds = 1

/** Where a moment of a lesson that has steps hangs: on the step that it lies in. */
export function anchorAt(timeline: Timeline, time: Seconds): Extract<Anchor, { kind: 'step' }> {
  const at = clamp(time, 0, timeline.length)
  const span = stepAt(timeline, at)!
  return { kind: 'step', step: span.step.id, offset: Math.max(0, at - span.start) }
}

/**
 * Four points bring the line to `gain` from `from` to `to` and, in the fades outside of them, from and to what it was
 * there; they take the place of those that lie there: what was set before does not add up. The two in the middle are the
 * `level`.
 */
export function plateau(
  timeline: Timeline,
  { from, to }: { from: Seconds; to: Seconds },
  gain: Decibels,
  newId: () => string,
): { edits: Edit[]; level: string[] } {
  const points = timeline.nudges
  const [before, after] = [from - FADE, to + FADE]
  const corners: [Seconds, Decibels][] = [
    [before, nudgeAt(points, before)],
    [from, gain],
    [to, gain],
    [after, nudgeAt(points, after)],
  ]
  const nudges = corners.map(([time, level]): Nudge => ({
    id: newId(),
    anchor: anchorAt(timeline, time),
    gain: level,
    shape: 'smooth',
  }))
  const replaced = points.filter(({ at }) => at >= before && at <= after).map(({ nudge }) => nudge.id)
  const put: Edit = { name: 'setNudges', nudges }
  return {
    edits: replaced.length > 0 ? [{ name: 'removeNudges', nudges: replaced }, put] : [put],
    level: nudges.slice(1, 3).map(({ id }) => id),
  }
}
