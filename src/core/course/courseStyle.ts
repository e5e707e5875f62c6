import isEqual from 'fast-deep-equal'
import { z } from 'zod'
import { lessonSchema, type Lesson } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { CAPTIONS_OF_FORMAT_5 } from '@/core/lesson/upgradeFormat5'

/**
 * How the lessons of a course look and move. Each lesson keeps all of it in its own document, so that it stays whole wherever
 * it goes; it follows the course in what it has as the course has it, and differs in the rest.
 */
export const courseStyleSchema = lessonSchema.pick({
  frame: true,
  framing: true,
  look: true,
  edge: true,
  opening: true,
  closing: true,
  lengths: true,
})
export type CourseStyle = z.infer<typeof courseStyleSchema>
export type StyleKey = keyof CourseStyle

/** A style that was stored before captions had a look. */
export const readCourseStyle = (json: unknown): CourseStyle => {
  const { look, ...rest } = json as { look: object }
  return courseStyleSchema.parse({ ...rest, look: { captions: CAPTIONS_OF_FORMAT_5, ...look } })
}

const KEYS = Object.keys(courseStyleSchema.shape) as StyleKey[]

export const styleOf = ({ frame, framing, look, edge, opening, closing, lengths }: Lesson): CourseStyle => ({
  ...{ frame, framing, look, edge, opening, closing, lengths },
})

/** In what a lesson is not as its course. */
export const differences = (lesson: Lesson, style: CourseStyle): StyleKey[] =>
  KEYS.filter((key) => !isEqual(lesson[key], style[key]))

/**
 * A lesson whose course was changed: what it had as the course had it becomes what the course has now. The very same lesson
 * where that is nothing.
 */
export function followCourse(lesson: Lesson, before: CourseStyle, now: CourseStyle): Lesson {
  const followed = KEYS.filter((key) => isEqual(lesson[key], before[key]) && !isEqual(before[key], now[key]))
  if (followed.length === 0) return lesson
  return { ...lesson, ...Object.fromEntries(followed.map((key) => [key, now[key]])) }
}

/** What makes a lesson as its course is. */
export const adoptStyle = ({ frame, framing, look, edge, opening, closing, lengths }: CourseStyle): Edit[] => [
  { name: 'setFrame', frame },
  { name: 'setLessonFraming', framing },
  { name: 'setLook', look },
  { name: 'setLessonEdge', edge },
  { name: 'setEnds', opening, closing },
  { name: 'setLengths', lengths },
]
