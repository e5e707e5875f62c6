import { asc, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { lessonSchema } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { UserError } from '@/core/userError'
import { db } from './client'
import { courses, lessons } from './schema'

export interface CourseListing {
  id: string
  title: string
  lessons: LessonListing[]
}

/** What the home page says of a lesson. */
export interface LessonListing {
  id: string
  title: string
  steps: number
  length: number
  savedAt: string
  /** The first picture that can be shown small: media and page. */
  cover: { media: string; page: number } | { lines: string[] } | null
}

export async function listCourses(): Promise<CourseListing[]> {
  const [all, rows] = await Promise.all([
    db().select().from(courses).orderBy(asc(courses.createdAt)),
    db().select().from(lessons).orderBy(asc(lessons.createdAt)),
  ])
  return all.map(({ id, title }) => ({ id, title, lessons: rows.filter((row) => row.courseId === id).map(listing) }))
}

function listing(row: typeof lessons.$inferSelect): LessonListing {
  const lesson = lessonSchema.parse(row.document)
  const first = lesson.steps[0]?.picture
  return {
    id: row.id,
    title: lesson.title,
    steps: lesson.steps.length,
    length: layoutLesson(lesson).length,
    savedAt: row.savedAt.toISOString(),
    cover: !first
      ? null
      : first.kind === 'card'
        ? { lines: first.lines }
        : { media: first.media, page: first.kind === 'still' ? first.page : 1 },
  }
}

export async function createCourse(title: string, id = nanoid(10)): Promise<string> {
  await db().insert(courses).values({ id, title }).onConflictDoNothing()
  return id
}

export async function renameCourse(id: string, title: string): Promise<void> {
  await db().update(courses).set({ title }).where(eq(courses.id, id))
}

export async function courseTitle(id: string): Promise<string> {
  const [course] = await db().select().from(courses).where(eq(courses.id, id))
  if (!course) throw new UserError('This course is no longer there.')
  return course.title
}

/** The given course, or the first one; where there is none yet, one is made. */
export async function courseOrFirst(id: string | null): Promise<string> {
  if (id) return id
  const [first] = await db().select().from(courses).orderBy(asc(courses.createdAt)).limit(1)
  return first?.id ?? createCourse('My course')
}
