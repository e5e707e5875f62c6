import { layoutLesson } from './layout'
import { isStandIn } from './takes'
import type { Lesson } from './document'

export interface CourseListing {
  id: string
  title: string
  lessons: AnyLessonListing[]
}

/** What the home page says of a lesson. */
export interface LessonListing {
  id: string
  title: string
  steps: number
  /** Steps that a synthesised voice reads for now. */
  standIns: number
  /** Seconds. */
  length: number
  savedAt: string
  cover: Lesson['steps'][number]['picture'] | null
}

/** A lesson whose document this program can't open; it can be downloaded as it is. */
export interface UnreadableLesson {
  id: string
  title: string
  unreadable: true
}

export type AnyLessonListing = LessonListing | UnreadableLesson

export function listLesson(id: string, lesson: Lesson, savedAt: Date): LessonListing {
  return {
    id,
    title: lesson.title,
    steps: lesson.steps.length,
    standIns: lesson.steps.filter((step) => isStandIn(lesson, step)).length,
    length: layoutLesson(lesson).length,
    savedAt: savedAt.toISOString(),
    cover: lesson.steps[0]?.picture ?? null,
  }
}
