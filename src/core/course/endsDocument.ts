import { emptyLesson } from '@/core/lesson/newParts'
import type { LessonDocument } from '@/core/lesson/document'
import { documentOf } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import { sharedStepsSchema, type CourseEnds, type End, type SharedSteps } from './sharedSteps'

/** What lessons share, as it is kept: each end as a lesson's document, so that older formats of it open as lessons do. */
export type EndsDocument = Record<End, LessonDocument | null>

export const endsDocument = ({ first, last }: CourseEnds): EndsDocument => ({
  first: first && documentFor(first),
  last: last && documentFor(last),
})

const documentFor = (shared: SharedSteps): LessonDocument => documentOf({ ...emptyLesson(''), ...shared })

/** An EndsDocument of this format or an older one. Throws a ZodError where it is neither. */
export const readEnds = ({ first, last }: { first: unknown; last: unknown }): CourseEnds => ({
  first: first ? sharedOf(first) : null,
  last: last ? sharedOf(last) : null,
})

const sharedOf = (kept: unknown): SharedSteps => sharedStepsSchema.parse(readLesson(kept))
