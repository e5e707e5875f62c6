import { eq } from 'drizzle-orm'
import { endsDocument, readEnds, type EndsDocument } from '@/core/course/endsDocument'
import { followShared, NO_ENDS, type CourseEnds, type End, type SharedSteps } from '@/core/course/sharedSteps'
import { db } from './client'
import { changeCourse, courseTitle } from './courses'
import { changeLessons } from './followers'
import { courses } from './schema'

/** The steps that all lessons of a course begin and end with. Throws NotThere where there is no such course. */
export async function courseEnds(id: string): Promise<CourseEnds> {
  await courseTitle(id)
  const [course] = await db().select({ ends: courses.ends }).from(courses).where(eq(courses.id, id))
  return course?.ends ? readEnds(course.ends as EndsDocument) : NO_ENDS
}

/**
 * Says what all lessons of a course begin, or end, with. Those that did as the course did follow, but for one that is `open`:
 * that follows where it is open. Returns how many have. What is shared no longer can be left to each of them as its own.
 * `before`: what was shared as far as whoever changes it knows. Throws Overtaken where that is not so.
 */
export async function setCourseEnd(
  id: string,
  end: End,
  now: SharedSteps | null,
  { open = null, isLeft = false, before }: { open?: string | null; isLeft?: boolean; before?: SharedSteps | null } = {},
): Promise<number> {
  const present = async () => (await courseEnds(id))[end]
  return changeCourse(id, before, present, async (shared) => {
    const followed = isLeft ? 0 : await changeLessons(id, (lesson) => followShared(lesson, end, shared, now), open)
    await db()
      .update(courses)
      .set({ ends: endsDocument({ ...(await courseEnds(id)), [end]: now }) })
      .where(eq(courses.id, id))
    return followed
  })
}
