import { z } from 'zod'
import { courseTargetsSchema, targetsForCourse } from './courseTargets'
import { pictureSchema, type Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { isStandIn } from '@/core/lesson/takes'
import { usual } from './usual'

export interface CourseListing {
  id: string
  title: string
  lessons: AnyLessonListing[]
}

/** What lists say of a lesson; kept beside its document, so that no list has to read documents. */
export const summarySchema = z.object({
  /** Raised when a summary comes to say something else: older ones are made anew. */
  edition: z.literal(2),
  title: z.string(),
  steps: z.number(),
  /** Steps that a synthesised voice reads for now. */
  standIns: z.number(),
  /** Seconds. */
  length: z.number(),
  cover: pictureSchema.nullable(),
  targets: courseTargetsSchema,
  /** In which it is told. */
  language: z.string(),
})
export type LessonSummary = z.infer<typeof summarySchema>

/** What the home page says of a lesson. */
export interface LessonListing extends Omit<LessonSummary, 'edition' | 'targets'> {
  id: string
  savedAt: string
  /** Recordings and files that came for it and are not in it yet. */
  waiting: number
}

/** Something that was deleted and can be brought back. */
export interface DeletedListing {
  kind: 'course' | 'lesson'
  id: string
  title: string
  at: string
}

/** A lesson whose document this program can't open; it can be downloaded as it is. */
export interface UnreadableLesson {
  id: string
  title: string
  unreadable: true
}

export type AnyLessonListing = LessonListing | UnreadableLesson

export const summaryOf = (lesson: Lesson): LessonSummary => ({
  edition: 2,
  title: lesson.title,
  steps: lesson.steps.length,
  standIns: lesson.steps.filter((step) => isStandIn(lesson, step)).length,
  length: layoutLesson(lesson).length,
  cover: lesson.steps[0]?.picture ?? null,
  targets: targetsForCourse(lesson.targets),
  language: lesson.mainLanguage,
})

/** In which most lessons of a course are told, and a new one is to be; null where there is none yet. */
export const usualLanguage = ({ lessons }: CourseListing): string | null =>
  usual(lessons.flatMap((lesson) => ('unreadable' in lesson ? [] : [lesson.language]))) ?? null
