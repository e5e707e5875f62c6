import type { Lesson } from '@/core/lesson/document'
import type { EdgeSpan, PictureSpan, StepSpan } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'

/**
 * How the steps' pictures give way to each other: over the boundary, so that nothing that is said becomes longer or shorter.
 * No edge is longer than half of what is seen beside it.
 */
export function layEdges(
  lesson: Pick<Lesson, 'edge' | 'opening' | 'closing'>,
  steps: readonly StepSpan[],
  pictures: readonly PictureSpan[],
): EdgeSpan[] {
  const edges: EdgeSpan[] = []
  const room = (boundary: Seconds): Seconds => {
    const beside = pictures.filter(({ start, end }) => start === boundary || end === boundary)
    return Math.min(...beside.map(({ start, end }) => end - start)) / 2
  }
  steps.slice(0, -1).forEach(({ step, end: boundary }) => {
    const { kind, length } = step.edge ?? lesson.edge
    const half = Math.min(length / 2, room(boundary))
    if (kind !== 'cut' && half > 0) edges.push({ kind, boundary, start: boundary - half, end: boundary + half })
  })
  const [first, last] = [pictures[0], pictures.at(-1)]
  if (first && lesson.opening > 0) {
    const length = Math.min(lesson.opening, (first.end - first.start) / 2)
    edges.unshift({ kind: 'plain', boundary: 0, start: 0, end: length })
  }
  if (last && lesson.closing > 0) {
    const length = Math.min(lesson.closing, (last.end - last.start) / 2)
    edges.push({ kind: 'plain', boundary: last.end, start: last.end - length, end: last.end })
  }
  return edges
}
