import pg from 'pg'
import { databaseUrl, pool } from '@/db/client'

/**
 * Who is at work, told by locks of the database: a lock lives as long as the connection that holds it. A process that ends
 * takes its connection with it. A machine that vanishes does not, so the server asks after each of these connections every
 * few seconds (TCP keep-alive) and drops one that does not answer for `GONE_AFTER`; what answers is the machine, so that a
 * process that is only busy, or stopped for a while, keeps its locks and nobody does its work a second time.
 */

/** Seconds until a machine that does not answer is known to be gone. */
export const GONE_AFTER = 20

const KEEP_ALIVE = `set tcp_keepalives_idle = 5; set tcp_keepalives_interval = 5; set tcp_keepalives_count = 3;
  set tcp_user_timeout = ${GONE_AFTER * 1000}`

/** A connection of its own, that the server drops soon after its machine is gone. */
export async function connectWatched(onLost: (error: Error) => void): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: databaseUrl(), connectionTimeoutMillis: 5000, keepAlive: true })
  client.on('error', onLost)
  await client.connect()
  await client.query(KEEP_ALIVE)
  return client
}

const WORKERS = 'a worker of Yarn Step'

/** Says that a worker is there, until its connection is lost; then the promise ends. */
export async function beThere(): Promise<void> {
  let lost = () => {}
  const end = new Promise<void>((resolve) => (lost = resolve))
  const client = await connectWatched(() => lost())
  client.on('end', () => lost())
  await client.query('select pg_advisory_lock_shared(hashtext($1))', [WORKERS])
  await end
}

export async function countWorkers(): Promise<number> {
  const { rows } = await pool().query<{ count: number }>(
    `select count(*)::int as count from pg_locks where locktype = 'advisory' and granted and mode = 'ShareLock'
       and ((classid::bigint << 32) | objid::bigint) = (hashtext($1)::bigint & x'ffffffffffffffff'::bigint)`,
    [WORKERS],
  )
  return rows[0]!.count
}
