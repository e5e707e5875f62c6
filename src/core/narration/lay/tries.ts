import type { Step } from '@/core/lesson/document'
import type { JobResult } from '@/core/messages/job'
import type { Cut } from '@/core/lesson/takeEdits'
import type { Seconds } from '@/core/units'

type Found = JobResult<'align'>

/** Kept before the word that follows a try. */
const BEFORE: Seconds = 0.25
/** Kept after the word before it. */
const AFTER: Seconds = 0.15

/**
 * Earlier tries of sentences that are still heard in a step: each as the cut that leaves it out, from shortly after the
 * words before it to shortly before those after it. `foundIn` gives what was found in a passage's take.
 */
export function triesHeard(
  { passages }: Step,
  foundIn: (media: string) => readonly Found[],
  newId: () => string,
): Cut[] {
  return passages.flatMap((passage) =>
    foundIn(passage.media).flatMap(({ words, extra }) =>
      extra
        .filter(({ kind, start, end }) => kind === 'retake' && start >= passage.from && end <= passage.to)
        .flatMap(({ start, end }): Cut[] => {
          const before = words.findLast((word) => word.end <= start + 0.05)
          const after = words.find((word) => word.start >= end - 0.05)
          const from = Math.max(passage.from, before ? Math.min(start, before.end + AFTER) : passage.from)
          const to = after ? Math.max(end, after.start - BEFORE) : passage.to
          return to > from ? [{ passage: passage.id, from, to: Math.min(passage.to, to), newPassage: newId() }] : []
        }),
    ),
  )
}
