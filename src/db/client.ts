import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { causesOf } from '@/core/userError'

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set (see .env.example)')
  return url
}

/** A database that is away says so soon: whoever waits is told, and asks again. */
const CONNECT_LIMIT = 5000 // ms

// The development server loads this module again at every change; the connections stay.
const shared = globalThis as { yarnStepPool?: pg.Pool }

export function pool(): pg.Pool {
  return (shared.yarnStepPool ??= openPool())
}

function openPool(): pg.Pool {
  const made = new pg.Pool({
    connectionString: databaseUrl(),
    max: 10,
    connectionTimeoutMillis: CONNECT_LIMIT,
    keepAlive: true,
  })
  // An idle connection that is lost is replaced by the pool; unheard, the event would end the process.
  made.on('error', ({ message }) => console.error(`A connection to the database was lost: ${message}`))
  return made
}

export const db = (): NodePgDatabase => drizzle(pool())

/** Queries of one transaction, and the plain way to send SQL in it that the job queue needs. */
export interface Transaction extends NodePgDatabase {
  executeSql(text: string, values: unknown[]): Promise<{ rows: unknown[] }>
}

/** Does `work` unless somebody does it already, here or on another machine; null then. */
export async function alone<T>(name: string, work: () => Promise<T>): Promise<T | null> {
  return transaction(async (tx) => {
    const { rows } = await tx.executeSql('select pg_try_advisory_xact_lock(hashtext($1)) as free', [name])
    return (rows[0] as { free: boolean }).free ? work() : null
  })
}

/** Does `work` in one transaction on one connection: all of it, or nothing where it throws. */
export async function transaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  const client = await pool().connect()
  let lost: Error | undefined
  const onError = (error: Error) => (lost = error)
  client.on('error', onError)
  try {
    await client.query('begin')
    const tx = Object.assign(drizzle(client), {
      executeSql: (text: string, values: unknown[]) => client.query(text, values),
    })
    const result = await work(tx as unknown as Transaction)
    await client.query('commit')
    return result
  } catch (error) {
    await client.query('rollback').catch((failed: Error) => (lost = failed))
    throw error
  } finally {
    client.off('error', onError)
    // A connection that broke is thrown away, not lent again.
    client.release(lost)
  }
}

/** Whether an error says that the database could not be reached or went away in the middle. */
export function isDatabaseAway(error: unknown): boolean {
  return causesOf(error).some(
    ({ code = '', message = '' }) =>
      /^(?:08|57P|53300)/.test(code) || /^E(?:CONN|PIPE|TIMEDOUT)/.test(code) || AWAY.test(message),
  )
}

const AWAY = /connection (?:terminated|timeout|ended)|timeout exceeded when trying to connect|not queryable/i
