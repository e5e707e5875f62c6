import type pg from 'pg'
import type PgBoss from 'pg-boss'
import type { JobKind } from '@/core/messages/jobInput'
import { pool, transaction } from '@/db/client'
import { laneOf, LANES, queue, sendJob, type JobData, type Lane } from './queue'

/**
 * Jobs that belong to nobody. While a worker does a job it holds a database lock with the job's name; the lock goes
 * with the worker's connection, however it ended. An active job without a lock has lost its worker; a row that waits
 * without a job has lost its job.
 */

/**
 * Takes a job out of a lane, and its lock with it in one transaction: nobody ever sees it given out without a lock, however
 * busy the machine is. Null where none waits, or another worker still holds it.
 */
export async function takeJob(lane: Lane, client: pg.Client): Promise<PgBoss.Job<JobData> | null> {
  const onClient: PgBoss.Db = { executeSql: (text, values) => client.query(text, values) }
  await client.query('begin')
  try {
    const [job] = await queue().fetch<JobData>(lane, { db: onClient } as PgBoss.FetchOptions)
    const isOurs = !job || (await lock(client, job.id))
    await client.query(isOurs ? 'commit' : 'rollback')
    return isOurs ? (job ?? null) : null
  } catch (error) {
    await client.query('rollback').catch(() => {})
    throw error
  }
}

async function lock(client: pg.Client, jobId: string): Promise<boolean> {
  const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock(hashtext($1)) as got', [jobId])
  return rows[0]!.got
}

/** Where the connection is lost its locks are, too; the work goes on, and comes to the same if another worker does it too. */
export const letGo = (client: pg.Client, jobId: string): Promise<unknown> =>
  client.query('select pg_advisory_unlock(hashtext($1))', [jobId]).catch(() => {})

/** What has just been completed may still be read as active. */
const GRACE = '1 second'

/** Puts jobs of dead workers back into the queue; those that were given out too often are told to `giveUp`. */
export async function recoverOrphans(giveUp: (data: JobData) => Promise<void>): Promise<void> {
  // A clock that was set back must not make jobs wait for a time that has been.
  await pool().query(`update pgboss.job set start_after = now() where state < 'active' and start_after > now()`)
  const { rows } = await pool().query<{ id: string; name: Lane; data: JobData; last: boolean }>(
    `select id, name, data, retry_count >= retry_limit as last from pgboss.job
     where state = 'active' and name = any($1) and started_on not between now() - interval '${GRACE}' and now()`,
    [LANES],
  )
  for (const { id, name, data, last } of rows) {
    if (await isHeld(id)) continue
    await queue().fail(name, id, { reason: 'its worker has died' })
    if (last) await giveUp(data)
  }
}

async function isHeld(jobId: string): Promise<boolean> {
  const { rows } = await pool().query<{ held: boolean }>(
    `select exists (select 1 from pg_locks where locktype = 'advisory' and granted
       and ((classid::bigint << 32) | objid::bigint) = (hashtext($1)::bigint & x'ffffffffffffffff'::bigint)) as held`,
    [jobId],
  )
  return rows[0]!.held
}

/** Rows that wait or are worked on without a job that would do it get one. */
export async function resendLost(): Promise<number> {
  return transaction(async (tx) => {
    const { rows } = await tx.executeSql(
      `select id, kind from jobs row where state in ('waiting', 'working') and not exists
         (select 1 from pgboss.job where name = any($1) and data->>'id' = row.id and state < 'completed')
       for update skip locked`,
      [LANES],
    )
    for (const { id, kind } of rows as { id: string; kind: JobKind }[]) await sendJob(tx, laneOf(kind), id)
    return rows.length
  })
}
