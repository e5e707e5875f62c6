import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { summaryOf, summarySchema, type LessonSummary } from '@/core/course/listing'
import { readLesson } from '@/core/lesson/upgrade'
import { db } from './client'
import { isReadable } from './lessons'
import { lessons } from './schema'

/** What lists say of lessons, without reading their documents. */
export interface Summarised {
  id: string
  courseId: string
  revision: number
  savedAt: Date
  /** Null where the lesson can't be read. */
  summary: LessonSummary | null
  /** As it stands in the document; null where there is none. */
  title: string | null
}

/** Of all lessons, or those of a course; the oldest first. */
export async function summaries(course?: string): Promise<Summarised[]> {
  const { id, courseId, revision, savedAt, summary } = lessons
  const title = sql<string | null>`${lessons.document}->>'title'`
  const rows = await db()
    .select({
      id,
      courseId,
      revision,
      savedAt,
      summary,
      title: sql<string | null>`case when ${summary} is null then ${title} end`,
    })
    .from(lessons)
    .where(and(isNull(lessons.deletedAt), course === undefined ? undefined : eq(courseId, course)))
    .orderBy(sql`${lessons.place} asc nulls last`, asc(lessons.createdAt))
  return Promise.all(
    rows.map(async (row) => {
      const { success, data } = summarySchema.safeParse(row.summary)
      return { ...row, summary: success ? data : await summarise(row.id, row.revision) }
    }),
  )
}

/** Of a lesson that was stored before there were summaries, or by an older edition: made once, and kept. */
async function summarise(id: string, revision: number): Promise<LessonSummary | null> {
  const [row] = await db().select({ document: lessons.document }).from(lessons).where(eq(lessons.id, id))
  if (!row || !isReadable(row.document)) return null
  const summary = summaryOf(readLesson(row.document))
  await db()
    .update(lessons)
    .set({ summary })
    .where(and(eq(lessons.id, id), eq(lessons.revision, revision)))
  return summary
}
