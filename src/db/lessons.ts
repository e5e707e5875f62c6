import { and, asc, desc, eq, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Lesson } from '@/core/lesson/document'
import { readLesson } from '@/core/lesson/upgrade'
import { UserError } from '@/core/userError'
import { db } from './client'
import { lessons, revisions } from './schema'

export interface SavedLesson {
  id: string
  courseId: string
  revision: number
  lesson: Lesson
  savedAt: Date
}

export async function createLesson(courseId: string, lesson: Lesson, id = nanoid(10)): Promise<string> {
  await db().transaction(async (tx) => {
    await tx.insert(lessons).values({ id, courseId, revision: 1, document: lesson })
    await tx.insert(revisions).values({ lessonId: id, revision: 1, document: lesson })
  })
  return id
}

export async function findLesson(id: string): Promise<SavedLesson | null> {
  const [row] = await db().select().from(lessons).where(eq(lessons.id, id))
  if (!row) return null
  const { courseId, revision, savedAt } = row
  return { id, courseId, revision, savedAt, lesson: readLesson(row.document) }
}

/** All lessons of a course, the oldest first. */
export async function lessonsOfCourse(course: string): Promise<SavedLesson[]> {
  const rows = await db().select().from(lessons).where(eq(lessons.courseId, course)).orderBy(asc(lessons.createdAt))
  return rows.map(({ id, courseId, revision, savedAt, document }) => ({
    id,
    courseId,
    revision,
    savedAt,
    lesson: readLesson(document),
  }))
}

export async function loadLesson(id: string): Promise<SavedLesson> {
  const found = await findLesson(id)
  if (!found) throw new UserError('This lesson is no longer there. It may have been deleted in another window.')
  return found
}

/** What came of a save: the new revision, or the one somebody else saved in between. */
export type SaveOutcome = { saved: true; revision: number } | { saved: false; revision: number; savedAt: string }

/** Saves on top of `base`. Nothing is overwritten if another revision has been saved since. */
export async function saveLesson(id: string, base: number, lesson: Lesson): Promise<SaveOutcome> {
  return db().transaction(async (tx) => {
    const [updated] = await tx
      .update(lessons)
      .set({ document: lesson, revision: base + 1, savedAt: sql`now()` })
      .where(and(eq(lessons.id, id), eq(lessons.revision, base)))
      .returning({ revision: lessons.revision })
    if (updated) {
      await tx.insert(revisions).values({ lessonId: id, revision: updated.revision, document: lesson })
      return { saved: true, revision: updated.revision }
    }
    const { revision, savedAt } = await loadLesson(id)
    return { saved: false, revision, savedAt: savedAt.toISOString() }
  })
}

export async function deleteLesson(id: string): Promise<void> {
  await db().delete(lessons).where(eq(lessons.id, id))
}

export interface RevisionListing {
  revision: number
  savedAt: string
}

const MOST_LISTED = 300

export async function listRevisions(id: string): Promise<RevisionListing[]> {
  const rows = await db()
    .select({ revision: revisions.revision, savedAt: revisions.savedAt })
    .from(revisions)
    .where(eq(revisions.lessonId, id))
    .orderBy(desc(revisions.revision))
    .limit(MOST_LISTED)
  return rows.map(({ revision, savedAt }) => ({ revision, savedAt: savedAt.toISOString() }))
}

export async function loadRevision(id: string, revision: number): Promise<Lesson> {
  const [row] = await db()
    .select({ document: revisions.document })
    .from(revisions)
    .where(and(eq(revisions.lessonId, id), eq(revisions.revision, revision)))
  if (!row) throw new UserError('This version of the lesson is no longer there.')
  return readLesson(row.document)
}
