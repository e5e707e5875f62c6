import { and, eq, isNull } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { followCourse, readCourseStyle, type CourseStyle } from '@/core/course/courseStyle'
import { documentOf } from '@/core/lesson/telling'
import { UserError } from '@/core/userError'
import { db } from './client'
import { courseTitle } from './courses'
import { isReadable, loadLesson, saveLesson } from './lessons'
import { courses, lessons } from './schema'

/** How the lessons of a course look; null where nobody has said so. Throws NotThere where there is no such course. */
export async function courseStyle(id: string): Promise<CourseStyle | null> {
  await courseTitle(id)
  const [course] = await db().select({ style: courses.style }).from(courses).where(eq(courses.id, id))
  return course?.style ? readCourseStyle(course.style) : null
}

/**
 * Says how the lessons of a course look. Those that were as the course was follow, each by a save of its own, which can be
 * undone in it; where nobody had said so before, none does. Returns how many have followed.
 */
export async function setCourseStyle(id: string, style: CourseStyle): Promise<number> {
  const before = await courseStyle(id)
  const followed = before ? await followAll(id, before, style) : 0
  // Last: where this ended before it was through, it is asked for again, and what has followed already stays.
  await db().update(courses).set({ style }).where(eq(courses.id, id))
  return followed
}

async function followAll(id: string, before: CourseStyle, style: CourseStyle): Promise<number> {
  const present = and(eq(lessons.courseId, id), isNull(lessons.deletedAt))
  const rows = await db().select({ id: lessons.id, document: lessons.document }).from(lessons).where(present)
  let followed = 0
  for (const row of rows) if (isReadable(row.document) && (await follow(row.id, before, style))) followed++
  return followed
}

const MOST_TRIES = 10

/** Again where somebody saved in between. */
async function follow(id: string, before: CourseStyle, style: CourseStyle): Promise<boolean> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const { revision, lesson } = await loadLesson(id)
    const next = followCourse(lesson, before, style)
    if (next === lesson) return false
    if ((await saveLesson(id, revision, documentOf(next), nanoid())).saved) return true
  }
  throw new UserError('One of these lessons is being saved again and again. Wait a moment, then say it once more.')
}
