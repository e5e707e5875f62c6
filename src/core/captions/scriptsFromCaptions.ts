import type { ReadCaption } from '@/core/formats/readCaptions'
import type { Timeline } from '@/core/lesson/timeline'

/** What each step says by captions in lesson time: those whose middle lies in it, by step. Steps without any are left out. */
export function scriptsFromCaptions(
  { steps }: Pick<Timeline, 'steps'>,
  captions: readonly ReadCaption[],
): Map<string, string> {
  const scripts = new Map<string, string>()
  for (const { start, end, text } of captions) {
    const middle = (start + end) / 2
    // What is said after the lesson's end belongs to its last step.
    const span = steps.find((one) => middle < one.end) ?? steps.at(-1)
    if (!span) continue
    const before = scripts.get(span.step.id)
    scripts.set(span.step.id, before ? `${before} ${text}` : text)
  }
  return scripts
}
