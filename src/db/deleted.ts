import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { DeletedListing } from '@/core/course/listing'
import { NotThere } from '@/core/userError'
import { say } from '@/messages/say'
import { db, transaction } from './client'
import { courses, lessons } from './schema'

/** Lessons and courses that were deleted: nobody sees them, but they can be brought back for a while. */

const KEPT_DAYS = 30

export const deleteLesson = (id: string) => markDeleted(lessons, id, say('server.lessonGone'))

/** Its lessons are not there with it. */
export const deleteCourse = (id: string) => markDeleted(courses, id, say('server.courseGone'))

async function markDeleted(table: typeof lessons | typeof courses, id: string, missing: string): Promise<void> {
  const gone = await db()
    .update(table)
    .set({ deletedAt: sql`now()` })
    .where(and(eq(table.id, id), isNull(table.deletedAt)))
    .returning({ id: table.id })
  if (gone.length === 0) throw new NotThere(missing)
}

/** With its course, where that was deleted too. */
export async function bringBackLesson(id: string): Promise<void> {
  await transaction(async (tx) => {
    const [row] = await tx
      .update(lessons)
      .set({ deletedAt: null })
      .where(eq(lessons.id, id))
      .returning({ course: lessons.courseId })
    if (!row) throw new NotThere(say('server.deletedTooLongAgo'))
    await tx.update(courses).set({ deletedAt: null }).where(eq(courses.id, row.course))
  })
}

export async function bringBackCourse(id: string): Promise<void> {
  const [row] = await db().update(courses).set({ deletedAt: null }).where(eq(courses.id, id)).returning()
  if (!row) throw new NotThere(say('server.deletedTooLongAgo'))
}

/** What can be brought back, the last deleted first. */
export async function listDeleted(): Promise<DeletedListing[]> {
  const [goneCourses, goneLessons] = await Promise.all([
    db().select().from(courses).where(isNotNull(courses.deletedAt)).orderBy(desc(courses.deletedAt)),
    db()
      .select({
        id: lessons.id,
        title: sql<string | null>`coalesce(${lessons.summary}->>'title', ${lessons.document}->>'title')`,
        deletedAt: lessons.deletedAt,
      })
      .from(lessons)
      .where(isNotNull(lessons.deletedAt))
      .orderBy(desc(lessons.deletedAt)),
  ])
  const all = [
    ...goneCourses.map(({ id, title, deletedAt }) => ({ kind: 'course' as const, id, title, at: deletedAt! })),
    ...goneLessons.map(({ id, title, deletedAt }) => ({
      kind: 'lesson' as const,
      id,
      title: title ?? 'A lesson',
      at: deletedAt!,
    })),
  ]
  return all.sort((a, b) => b.at.getTime() - a.at.getTime()).map((one) => ({ ...one, at: one.at.toISOString() }))
}

/** Deletes for good what was deleted long ago; returns how much. */
export async function forgetDeleted(dryRun: boolean): Promise<number> {
  const before = sql`now() - ${KEPT_DAYS} * interval '1 day'`
  let count = 0
  for (const table of [lessons, courses]) {
    const old = sql`${table.deletedAt} < ${before}`
    const found = dryRun
      ? await db().select({ id: table.id }).from(table).where(old)
      : await db().delete(table).where(old).returning({ id: table.id })
    count += found.length
  }
  return count
}
