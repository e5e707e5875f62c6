import pg from 'pg'
import type PgBoss from 'pg-boss'
import { databaseUrl, pool } from '@/db/client'
import { QUEUES, type JobData, type QueueName } from './queue'

/**
 * Jobs whose worker has died. While a worker does a job it holds a database lock with the job's name; the lock goes
 * with the worker's connection, however it ended. An active job without a lock belongs to nobody.
 */

/** Does `work` while holding the job's lock. */
export async function holding(jobId: string, work: () => Promise<void>): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl() })
  await client.connect()
  try {
    await client.query('select pg_advisory_lock(hashtext($1))', [jobId])
    await work()
  } finally {
    await client.end()
  }
}

/** Between fetching a job and locking it a worker needs a moment. */
const GRACE = '3 seconds'

/** Puts jobs of dead workers back into the queue; those that were given out too often are told to `giveUp`. */
export async function recoverOrphans(
  boss: PgBoss,
  giveUp: (queue: QueueName, data: JobData) => Promise<void>,
): Promise<void> {
  const { rows } = await pool().query<{ id: string; name: QueueName; data: JobData; last: boolean }>(
    `select id, name, data, retry_count >= retry_limit as last from pgboss.job
     where state = 'active' and name = any($1) and started_on < now() - interval '${GRACE}'`,
    [Object.values(QUEUES)],
  )
  for (const { id, name, data, last } of rows) {
    if (await isHeld(id)) continue
    await boss.fail(name, id, { reason: 'its worker has died' })
    if (last) await giveUp(name, data)
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
