import { eq } from 'drizzle-orm'
import { followCourse, readCourseStyle, type CourseStyle } from '@/core/course/courseStyle'
import { db } from './client'
import { changeCourse, courseTitle } from './courses'
import { changeLessons } from './followers'
import { courses } from './schema'

/** How the lessons of a course look; null where nobody has said so. Throws NotThere where there is no such course. */
export async function courseStyle(id: string): Promise<CourseStyle | null> {
  await courseTitle(id)
  const [course] = await db().select({ style: courses.style }).from(courses).where(eq(courses.id, id))
  return course?.style ? readCourseStyle(course.style) : null
}

/**
 * Says how the lessons of a course look. Those that were as the course was follow; where nobody had said so before, none
 * does. Returns how many have followed. `seen`: what the course said as far as whoever changes it knows. Throws Overtaken
 * where that is not so.
 */
export const setCourseStyle = (id: string, style: CourseStyle, seen?: CourseStyle | null): Promise<number> =>
  changeCourse(
    id,
    seen,
    () => courseStyle(id),
    async (before) => {
      const followed = before ? await changeLessons(id, (lesson) => followCourse(lesson, before, style)) : 0
      // Last: where this ended before it was through, it is asked for again, and what has followed already stays.
      await db().update(courses).set({ style }).where(eq(courses.id, id))
      return followed
    },
  )
