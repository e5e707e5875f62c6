import { and, eq, inArray, sql } from 'drizzle-orm'
import { readLesson } from '@/core/lesson/upgrade'
import type { Lesson } from '@/core/lesson/document'
import { db } from './client'
import { isReadable } from './lessons'
import { arrivals, jobs, lessons } from './schema'

/** What the database refers to outside of itself: files that must stay. */

/**
 * Hashes of all files that something needs: lessons and their kept versions, also such as can't be read; what was brought
 * in within so many days and may not be in a lesson yet; what has arrived and is not in its lesson; work that is under way.
 */
export async function hashesNeeded(days: number): Promise<Set<string>> {
  const recent = sql`now() - ${Math.max(days, JUST_NOW)} * interval '1 day'`
  const sources = [
    sql`select document::text as text from lessons`,
    sql`select document::text from revisions`,
    sql`select ends::text from courses where ends is not null`,
    sql`select result::text from jobs where kind = 'import' and result is not null and created_at > ${recent}`,
    sql`select j.result::text from jobs j join arrivals a on a.import_id = j.id where a.state <> 'taken' and j.result is not null`,
    sql`select details::text from arrivals where state <> 'taken' and details is not null`,
    sql`select input::text from jobs where state in ('waiting', 'working')`,
  ]
  const { rows } = await db().execute<{ hash: string }>(
    sql`select distinct (regexp_matches(text, '[0-9a-f]{64}', 'g'))[1] as hash from (${sql.join(sources, sql` union all `)}) as needing`,
  )
  return new Set(rows.map(({ hash }) => hash))
}

/** What was brought in a moment ago is needed in any case (days). */
const JUST_NOW = 1 / 24

/** Every lesson that can be read, as it is now, one after the other. */
export async function* lessonsAsTheyAre(): AsyncGenerator<Lesson> {
  const ids = await db().select({ id: lessons.id }).from(lessons)
  for (const { id } of ids) {
    const [row] = await db()
      .select({ document: lessons.document })
      .from(lessons)
      .where(sql`${lessons.id} = ${id}`)
    if (row && isReadable(row.document)) yield readLesson(row.document)
  }
}

/** Results that are gone are made anew when somebody asks for them again. */
export async function forgetResults(hashes: readonly string[]): Promise<void> {
  if (hashes.length > 0)
    await db()
      .delete(jobs)
      .where(inArray(sql`${jobs.result}->'info'->>'hash'`, [...hashes]))
}

/** Uploads that are still to be imported, recordings that are not in their lessons, and finished files. */
export async function filesNeeded(): Promise<{ uploads: Set<string>; recordings: Set<string>; exports: Set<string> }> {
  const idsOf = (rows: { id: string }[]) => new Set(rows.map(({ id }) => id))
  const [uploads, waiting, made] = await Promise.all([
    db()
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.kind, 'import'), inArray(jobs.state, ['waiting', 'working']))),
    db()
      .select({ id: arrivals.id })
      .from(arrivals)
      .where(inArray(arrivals.state, ['open', 'finished'])),
    db().select({ id: jobs.id }).from(jobs).where(eq(jobs.kind, 'export')),
  ])
  return { uploads: idsOf(uploads), recordings: idsOf(waiting), exports: idsOf(made) }
}
