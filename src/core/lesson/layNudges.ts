import type { Seconds } from '@/core/units'
import type { Nudge } from './document'
import type { Loose, NudgePoint, StepSpan, TimeOfMark } from './timeline'

/** The points in the order of lesson time; those of steps that have become shorter stand at the step's end. */
export function layNudges(
  nudges: readonly Nudge[],
  steps: readonly StepSpan[],
  timeOf: TimeOfMark,
): { nudges: NudgePoint[]; loose: Loose[] } {
  const spans = new Map(steps.map((span) => [span.step.id, span]))
  const loose: Loose[] = []
  const momentOf = ({ anchor }: Nudge): Seconds | null => {
    if (anchor.kind === 'step') {
      const span = spans.get(anchor.step)
      return span ? Math.min(span.end, span.start + anchor.offset) : null
    }
    const time = timeOf(anchor.mark)
    return time === null ? null : time + anchor.offset
  }
  const points = nudges.flatMap((nudge): NudgePoint[] => {
    const at = momentOf(nudge)
    if (at !== null) return [{ nudge, at: Math.max(0, at) }]
    loose.push({ kind: 'nudge', id: nudge.id, nudge })
    return []
  })
  return { nudges: points.sort((a, b) => a.at - b.at), loose }
}
