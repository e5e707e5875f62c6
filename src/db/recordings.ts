import { and, eq, inArray, lt, ne, or, sql } from 'drizzle-orm'
import { recordingDetailsSchema, type RecordingDetails, type RecordingKind } from '@/core/messages/recording'
import { NotThere, UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { db, type Transaction } from './client'
import { recordings } from './schema'

export type RecordingRow = Omit<typeof recordings.$inferSelect, 'details'> & { details: RecordingDetails }

/** A recording is given up by its own browser when nothing has come of it for so long, by the database's clock. */
const GIVEN_UP_AFTER = sql`interval '4 seconds'`
/** Others leave it alone for longer: a connection may be away for a while, and whoever records does not notice. */
const ABANDONED_AFTER = sql`interval '3 minutes'`

/** The browser chooses the id, so that a request that is repeated after a lost answer does no harm. */
export async function openRecording(
  id: string,
  lessonId: string,
  kind: RecordingKind,
  details: RecordingDetails,
  owner: string,
): Promise<void> {
  await db().insert(recordings).values({ id, lessonId, kind, details, owner, state: 'open' }).onConflictDoNothing()
}

/** One that may be ended, changed or thrown away by `owner`: its own, or one that nobody has made for minutes. */
export async function loadOwnRecording(id: string, owner: string): Promise<RecordingRow> {
  const found = await loadRecording(id)
  if (found.owner === owner) return found
  const [abandoned] = await db()
    .select({ id: recordings.id })
    .from(recordings)
    .where(and(eq(recordings.id, id), lt(recordings.heardAt, sql`now() - ${ABANDONED_AFTER}`)))
  if (!abandoned) throw new UserError(say('server.othersRecording'))
  return found
}

export async function loadRecording(id: string): Promise<RecordingRow> {
  const [row] = await db().select().from(recordings).where(eq(recordings.id, id))
  if (!row) throw new NotThere(say('server.recordingGone'))
  return { ...row, details: recordingDetailsSchema.parse(row.details) }
}

export async function updateRecording(
  id: string,
  change: Partial<Pick<RecordingRow, 'details' | 'state' | 'importId'>>,
  on: Pick<Transaction, 'update'> = db(),
): Promise<void> {
  await on
    .update(recordings)
    .set({ ...change, heardAt: sql`now()` })
    .where(eq(recordings.id, id))
}

export async function deleteRecording(id: string): Promise<void> {
  await db().delete(recordings).where(eq(recordings.id, id))
}

/**
 * Recordings of a lesson that nobody is making any more and that are not in it yet: those of `owner` (of those `givenUp` it
 * knows that), and others' that were left for minutes.
 */
export async function waitingRecordings(lessonId: string, owner: string, givenUp: string[]): Promise<RecordingRow[]> {
  const rows = await db()
    .select()
    .from(recordings)
    .where(
      and(
        eq(recordings.lessonId, lessonId),
        ne(recordings.state, 'taken'),
        or(
          lt(recordings.heardAt, sql`now() - ${ABANDONED_AFTER}`),
          and(
            eq(recordings.owner, owner),
            or(
              eq(recordings.state, 'finished'),
              lt(recordings.heardAt, sql`now() - ${GIVEN_UP_AFTER}`),
              inArray(recordings.id, givenUp),
            ),
          ),
        ),
      ),
    )
    .orderBy(recordings.createdAt)
  return rows.map((row) => ({ ...row, details: recordingDetailsSchema.parse(row.details) }))
}
