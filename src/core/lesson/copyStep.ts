import type { Step } from './document'
import { withMarks } from './marks'

/** What of a step has a name of its own, and is another thing in its copy. */
export type Part = 'passage' | 'picture' | 'layer'

/** The same step once more: it and all its parts have ids of their own, and hang on marks of their own. */
export function copyOfStep(
  step: Step,
  id: string,
  newId: (part: Part, index: number) => string,
  markFor: (mark: string) => string,
): Step {
  const anew = <T extends { id: string }>(list: readonly T[], part: Part): T[] =>
    list.map((one, i) => ({ ...one, id: newId(part, i) }))
  const copy = {
    ...step,
    id,
    passages: anew(step.passages, 'passage'),
    more: anew(step.more, 'picture'),
    layers: anew(step.layers, 'layer'),
  }
  return withMarks(copy, markFor)
}
