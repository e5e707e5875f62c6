import { and, count, eq, gt, inArray, lt, ne, or, sql } from 'drizzle-orm'
import { recordingDetailsSchema, type RecordingDetails, type RecordingKind } from '@/core/messages/arrival'
import { NotThere, UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { db, type Transaction } from './client'
import { arrivals } from './schema'

/** What is on its way into lessons: recordings, and files that are brought in. */
export type ArrivalRow = Omit<typeof arrivals.$inferSelect, 'details'>
export type RecordingRow = ArrivalRow & { kind: RecordingKind; details: RecordingDetails }

/** A recording is given up by its own browser when nothing has come of it for so long, by the database's clock. */
const GIVEN_UP_AFTER = sql`interval '4 seconds'`
/** Others leave it alone for longer: a connection may be away for a while, and whoever records does not notice. */
const ABANDONED_AFTER = sql`interval '3 minutes'`
const isAbandoned = lt(arrivals.heardAt, sql`now() - ${ABANDONED_AFTER}`)

/** What an arrival is, as it begins. */
export type Begun = Pick<ArrivalRow, 'id' | 'lessonId' | 'owner'> &
  ({ kind: RecordingKind; details: RecordingDetails } | { kind: 'file'; name: string })

/** The id is chosen before, so that a request that is repeated after a lost answer does no harm. */
export async function openArrival(begun: Begun): Promise<void> {
  await db()
    .insert(arrivals)
    .values({ ...begun, state: 'open' })
    .onConflictDoNothing()
}

/** One that may be ended, changed or thrown away by `owner`: its own, or one that nobody has sent anything of for minutes. */
export async function loadOwnArrival(id: string, owner: string): Promise<ArrivalRow & { details: unknown }> {
  const [row] = await db().select().from(arrivals).where(eq(arrivals.id, id))
  if (!row) throw new NotThere(say('server.recordingGone'))
  if (row.owner === owner) return row
  const [abandoned] = await db()
    .select({ id: arrivals.id })
    .from(arrivals)
    .where(and(eq(arrivals.id, id), isAbandoned))
  if (!abandoned) throw new UserError(say('server.othersRecording'))
  return row
}

/** An import of what is on its way into a lesson is its owner's affair; of what is for none, it is anybody's who knows it. */
export async function assertMayEnd(importId: string, owner: string): Promise<void> {
  const [row] = await db().select({ id: arrivals.id }).from(arrivals).where(eq(arrivals.importId, importId))
  if (row) await loadOwnArrival(row.id, owner)
}

export async function loadRecording(id: string): Promise<RecordingRow> {
  const [row] = await db().select().from(arrivals).where(eq(arrivals.id, id))
  return asRecording(row)
}

export const loadOwnRecording = async (id: string, owner: string): Promise<RecordingRow> =>
  asRecording(await loadOwnArrival(id, owner))

function asRecording(row: (ArrivalRow & { details: unknown }) | undefined): RecordingRow {
  if (!row || row.kind === 'file') throw new NotThere(say('server.recordingGone'))
  return { ...row, kind: row.kind, details: recordingDetailsSchema.parse(row.details) }
}

export async function updateArrival(
  id: string,
  change: Partial<Pick<RecordingRow, 'details' | 'state'>>,
): Promise<void> {
  await db()
    .update(arrivals)
    .set({ ...change, heardAt: sql`now()` })
    .where(eq(arrivals.id, id))
}

/** All of it is there, and is imported under its own id; one that is in its lesson already stays so. */
export async function finishArrival(id: string, on: Pick<Transaction, 'update'>): Promise<void> {
  await on
    .update(arrivals)
    .set({ state: 'finished', importId: id, heardAt: sql`now()` })
    .where(and(eq(arrivals.id, id), ne(arrivals.state, 'taken')))
}

export async function deleteArrival(id: string): Promise<void> {
  await db().delete(arrivals).where(eq(arrivals.id, id))
}

/**
 * What is not in a lesson yet and nobody is making or sending any more: of `owner` (of those `givenUp` it knows that), and
 * what others have left for minutes.
 */
export async function waitingArrivals(
  lessonId: string,
  owner: string,
  givenUp: string[],
): Promise<(RecordingRow | (ArrivalRow & { kind: 'file' }))[]> {
  const rows = await db()
    .select()
    .from(arrivals)
    .where(
      and(
        eq(arrivals.lessonId, lessonId),
        ne(arrivals.state, 'taken'),
        or(
          isAbandoned,
          and(
            eq(arrivals.owner, owner),
            or(
              eq(arrivals.state, 'finished'),
              lt(arrivals.heardAt, sql`now() - ${GIVEN_UP_AFTER}`),
              inArray(arrivals.id, givenUp),
            ),
          ),
        ),
      ),
    )
    .orderBy(arrivals.createdAt)
  return rows.map((row) => (row.kind === 'file' ? { ...row, kind: row.kind } : asRecording(row)))
}

/** In how many lessons something waits, and how much: what is there whole, or was left for minutes after something of it came. */
export async function waitingCounts(): Promise<Map<string, number>> {
  const rows = await db()
    .select({ lesson: arrivals.lessonId, waiting: count() })
    .from(arrivals)
    .where(
      and(
        ne(arrivals.kind, 'room'),
        or(
          eq(arrivals.state, 'finished'),
          and(eq(arrivals.state, 'open'), isAbandoned, gt(arrivals.heardAt, arrivals.createdAt)),
        ),
      ),
    )
    .groupBy(arrivals.lessonId)
  return new Map(rows.map(({ lesson, waiting }) => [lesson, waiting]))
}

/** Forgets files that broke off on their way so many days ago, and recordings of which nothing ever came. */
export async function forgetBrokenOff(days: number): Promise<void> {
  const isOld = lt(arrivals.heardAt, sql`now() - ${days} * interval '1 day'`)
  const isNothing = or(eq(arrivals.kind, 'file'), eq(arrivals.heardAt, arrivals.createdAt))
  await db()
    .delete(arrivals)
    .where(and(eq(arrivals.state, 'open'), isOld, isNothing))
}
