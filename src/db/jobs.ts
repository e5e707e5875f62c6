import { createHash } from 'node:crypto'
import { and, desc, eq, inArray, notInArray, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { jobResultSchemas, type ExportStatus, type JobError, type JobResult, type JobStatus } from '@/core/messages/job'
import { JOB_EDITIONS, jobInputSchema, type JobInput, type JobInputOf, type JobKind } from '@/core/messages/jobInput'
import { NotThere } from '@/core/userError'
import { isLanguage, LANGUAGES, type Language } from '@/messages/languages'
import { language, say } from '@/messages/say'
import { db, type Transaction } from './client'
import { jobs } from './schema'

export interface JobRow<K extends JobKind = JobKind> extends JobStatus<K> {
  /** Of whoever asked. */
  language: Language
  input: JobInputOf<K>
}

const UNDER_WAY = ['waiting', 'working'] as const

/** Asks for a job; `isNew` where it has to be done, because nobody has asked before or it has failed. */
export async function insertJob(
  tx: Transaction,
  input: JobInput,
  id = idOf(input),
): Promise<{ id: string; isNew: boolean }> {
  const lessonId = 'lesson' in input ? input.lesson : null
  const inserted = await tx
    .insert(jobs)
    .values({ id, kind: input.kind, input, lessonId, language: language(), state: 'waiting' })
    .onConflictDoUpdate({
      target: jobs.id,
      set: { state: 'waiting', language: language(), progress: 0, error: null, errorCode: null, createdAt: new Date() },
      setWhere: inArray(jobs.state, ['failed', 'cancelled']),
    })
    .returning({ id: jobs.id })
  return { id, isNew: inserted.length > 0 }
}

function idOf(input: JobInput): string {
  if (input.kind === 'import' || input.kind === 'export') return nanoid(12)
  return createHash('sha256')
    .update(JSON.stringify([JOB_EDITIONS[input.kind], input]))
    .digest('hex')
    .slice(0, 32)
}

export async function findJob(id: string): Promise<JobRow | null> {
  const [row] = await db().select().from(jobs).where(eq(jobs.id, id))
  return row ? readRow(row) : null
}

/** A job of this kind that must be there. */
export async function loadJob<K extends JobKind>(id: string, kind: K): Promise<JobRow<K>> {
  const row = await findJob(id)
  if (row?.kind !== kind) throw new NotThere(say('server.jobGone'))
  return row as unknown as JobRow<K>
}

/** False where it was cancelled, or is gone. */
export async function isWanted(id: string): Promise<boolean> {
  const [row] = await db().select({ state: jobs.state }).from(jobs).where(eq(jobs.id, id))
  return row !== undefined && row.state !== 'cancelled'
}

/** False where it was cancelled meanwhile, or is gone. */
export async function reportProgress(id: string, progress: number): Promise<boolean> {
  return (await changeOpen(id, { state: 'working', progress })) > 0
}

/** False where it was cancelled meanwhile, or is gone. */
export async function finishJob<K extends JobKind>(id: string, result: JobResult<K>): Promise<boolean> {
  return (await changeOpen(id, { state: 'done', progress: 1, result, finishedAt: new Date() })) > 0
}

export async function failJob(id: string, error: string, errorCode: JobError): Promise<void> {
  await changeOpen(id, { state: 'failed', error, errorCode, finishedAt: new Date() })
}

/** Whoever is at it sees so within a moment. False where it has ended already. */
export const cancelJob = async (id: string): Promise<boolean> =>
  (await changeOpen(id, { state: 'cancelled', finishedAt: new Date() })) > 0

async function changeOpen(id: string, change: Partial<typeof jobs.$inferInsert>): Promise<number> {
  const changed = await db()
    .update(jobs)
    .set(change)
    .where(and(eq(jobs.id, id), inArray(jobs.state, [...UNDER_WAY])))
    .returning({ id: jobs.id })
  return changed.length
}

export async function deleteJob(id: string): Promise<void> {
  await db().delete(jobs).where(eq(jobs.id, id))
}

export async function jobStatuses(ids: readonly string[]): Promise<JobStatus[]> {
  if (ids.length === 0) return []
  const { id, kind, state, progress, error, errorCode, result } = jobs
  const rows = await db()
    .select({ id, kind, state, progress, error, errorCode, result })
    .from(jobs)
    .where(inArray(jobs.id, [...ids]))
  return rows.map((row) => ({ ...row, result: orElse(() => readResult(row), null) }))
}

/** What another edition of this program has written may be unreadable: that keeps nobody from the rest of a list. */
function orElse<T, E>(read: () => T, otherwise: E): T | E {
  try {
    return read()
  } catch (error) {
    console.error(error)
    return otherwise
  }
}

/** Finished files of a lesson and those in the making, the newest first; `revision`: what is saved now. */
export async function exportsOfLesson(lesson: string, revision: number): Promise<ExportStatus[]> {
  const rows = await db()
    .select()
    .from(jobs)
    .where(and(eq(jobs.lessonId, lesson), eq(jobs.kind, 'export')))
    .orderBy(desc(jobs.createdAt))
  return rows.flatMap((row) => {
    const job = orElse(() => readRow(row) as JobRow<'export'>, null)
    return job ? [{ ...job, createdAt: row.createdAt.toISOString(), isOutdated: job.input.revision !== revision }] : []
  })
}

/** How long what has ended is remembered (days); what was computed is asked for again and again. */
const REMEMBERED: [days: number, kinds: 'import' | 'computed'][] = [
  [30, 'import'],
  [90, 'computed'],
]

/** Forgets jobs that ended long ago, but for finished files and recordings that are not in their lessons; returns how many. */
export async function forgetOldJobs(dryRun: boolean): Promise<number> {
  let count = 0
  for (const [days, kinds] of REMEMBERED) {
    const old = and(
      kinds === 'import' ? eq(jobs.kind, 'import') : notInArray(jobs.kind, ['import', 'export']),
      notInArray(jobs.state, [...UNDER_WAY]),
      sql`${jobs.createdAt} < now() - ${days} * interval '1 day'`,
      sql`not exists (select 1 from arrivals where import_id = ${jobs.id} and arrivals.state <> 'taken')`,
    )
    const found = dryRun
      ? await db().select({ id: jobs.id }).from(jobs).where(old)
      : await db().delete(jobs).where(old).returning({ id: jobs.id })
    count += found.length
  }
  return count
}

/** Revisions of a lesson of which something is still to be made. */
export const revisionsWanted = (lesson: string) =>
  db()
    .select({ revision: sql<number>`(${jobs.input}->>'revision')::int` })
    .from(jobs)
    .where(
      and(eq(jobs.lessonId, lesson), inArray(jobs.state, [...UNDER_WAY]), sql`${jobs.input}->>'revision' is not null`),
    )

function readRow({
  id,
  kind,
  language: asked,
  state,
  progress,
  error,
  errorCode,
  result,
  input,
}: typeof jobs.$inferSelect): JobRow {
  return {
    id,
    kind,
    language: isLanguage(asked) ? asked : LANGUAGES[0],
    state,
    progress,
    error,
    errorCode,
    result: readResult({ kind, result }),
    input: jobInputSchema.parse(input),
  }
}

const readResult = ({ kind, result }: { kind: JobKind; result: unknown }) =>
  result === null ? null : jobResultSchemas[kind].parse(result)
