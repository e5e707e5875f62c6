import { and, eq, inArray, lt, ne, or, sql } from 'drizzle-orm'
import { recordingDetailsSchema, type RecordingDetails, type RecordingKind } from '@/core/messages/recording'
import { NotThere } from '@/core/userError'
import { say } from '@/messages/say'
import { db, type Transaction } from './client'
import { recordings } from './schema'

export type RecordingRow = Omit<typeof recordings.$inferSelect, 'details'> & { details: RecordingDetails }

/** A recording is given up by its browser when nothing has come of it for so long, by the database's clock. */
const GIVEN_UP_AFTER = sql`interval '4 seconds'`

/** The browser chooses the id, so that a request that is repeated after a lost answer does no harm. */
export async function openRecording(
  id: string,
  lessonId: string,
  kind: RecordingKind,
  details: RecordingDetails,
): Promise<void> {
  await db().insert(recordings).values({ id, lessonId, kind, details, state: 'open' }).onConflictDoNothing()
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

/** Recordings of a lesson that nobody is making any more (of those `givenUp` a browser knows it) and that are not in it yet. */
export async function waitingRecordings(lessonId: string, givenUp: string[]): Promise<RecordingRow[]> {
  const rows = await db()
    .select()
    .from(recordings)
    .where(
      and(
        eq(recordings.lessonId, lessonId),
        ne(recordings.state, 'taken'),
        or(
          eq(recordings.state, 'finished'),
          lt(recordings.heardAt, sql`now() - ${GIVEN_UP_AFTER}`),
          inArray(recordings.id, givenUp),
        ),
      ),
    )
    .orderBy(recordings.createdAt)
  return rows.map((row) => ({ ...row, details: recordingDetailsSchema.parse(row.details) }))
}
