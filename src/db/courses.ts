import { asc, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import type { AnyLessonListing, CourseListing } from '@/core/course/listing'
import { cutText } from '@/core/text'
import { pronunciationSchema, type Pronunciation } from '@/core/narration/speechVoice'
import { NotThere } from '@/core/userError'
import { db } from './client'
import { courses } from './schema'
import { summaries, type Summarised } from './summaries'

export async function listCourses(): Promise<CourseListing[]> {
  const [all, listed] = await Promise.all([db().select().from(courses).orderBy(asc(courses.createdAt)), summaries()])
  return all.map(({ id, title }) => ({
    id,
    title,
    lessons: listed.filter(({ courseId }) => courseId === id).map(listingOf),
  }))
}

/** One lesson that can't be read is shown as such and keeps nobody from the others. */
function listingOf({ id, savedAt, summary, title }: Summarised): AnyLessonListing {
  if (!summary) return { id, title: cutText(title ?? 'A lesson', 200), unreadable: true }
  const { edition: _, targets: __, ...listing } = summary
  return { id, savedAt: savedAt.toISOString(), ...listing }
}

export async function createCourse(title: string, id = nanoid(10)): Promise<string> {
  await db().insert(courses).values({ id, title }).onConflictDoNothing()
  return id
}

export async function renameCourse(id: string, title: string): Promise<void> {
  const done = await db().update(courses).set({ title }).where(eq(courses.id, id)).returning({ id: courses.id })
  if (done.length === 0) throw new NotThere('This course is no longer there.')
}

export async function courseTitle(id: string): Promise<string> {
  const [course] = await db().select().from(courses).where(eq(courses.id, id))
  if (!course) throw new NotThere('This course is no longer there.')
  return course.title
}

/** The given course, or the first one; where there is none yet, one is made. */
export async function courseOrFirst(id: string | null): Promise<string> {
  if (id) {
    await courseTitle(id)
    return id
  }
  const [first] = await db().select().from(courses).orderBy(asc(courses.createdAt)).limit(1)
  return first?.id ?? createCourse('My course')
}

export async function pronunciationsOf(id: string): Promise<Pronunciation[]> {
  const [course] = await db().select().from(courses).where(eq(courses.id, id))
  return z.array(pronunciationSchema).parse(course?.pronunciations ?? [])
}

export async function setPronunciations(id: string, pronunciations: Pronunciation[]): Promise<void> {
  await courseTitle(id)
  await db().update(courses).set({ pronunciations }).where(eq(courses.id, id))
}
