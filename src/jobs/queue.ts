import PgBoss from 'pg-boss'
import type { JobKind } from '@/core/messages/jobInput'
import { pool, type Transaction } from '@/db/client'

/** Jobs that would hold each other up wait in queues of their own. */
export const LANES = ['import', 'export', 'task', 'quick'] as const
export type Lane = (typeof LANES)[number]
export const laneOf = (kind: JobKind): Lane => {
  if (kind === 'import' || kind === 'export') return kind
  return QUICK.includes(kind) ? 'quick' : 'task'
}
/** Somebody waits for these, and they take seconds at most. */
const QUICK: readonly JobKind[] = ['roles', 'match', 'effect', 'compose']

/** What every job in the queue carries: the id of its row in `jobs`. */
export interface JobData {
  id: string
}

/** A job whose worker has died is given to another one so many times. */
const RETRIES = 2
const LONGEST_HOURS = 12

/** The queue on the application's own connections: it has none of its own that could be lost or fail to open. */
const onPool: PgBoss.Db = { executeSql: (text, values) => pool().query(text, values) }

const shared = globalThis as { yarnStepQueue?: PgBoss }

/** The queue for putting jobs in and taking them out; its tables are made by `prepareQueues`. */
export const queue = (): PgBoss =>
  (shared.yarnStepQueue ??= openQueue({ supervise: false, schedule: false, migrate: false }))

export function openQueue(options: PgBoss.ConstructorOptions): PgBoss {
  const boss = new PgBoss({ db: onPool, ...options })
  boss.on('error', (error) => console.error(`The job queue: ${error.message}`))
  return boss
}

/** Puts a job into the queue, in the very transaction that makes its row: there is both or none. */
export async function sendJob(tx: Transaction, lane: Lane, id: string, priority = 0): Promise<void> {
  const options = { priority, retryLimit: RETRIES, retryDelay: 0, expireInHours: LONGEST_HOURS }
  await queue().send(lane, { id }, { ...options, db: tx as PgBoss.Db })
}

/** Makes the queue's own tables and queues; safe to repeat. */
export async function prepareQueues(): Promise<void> {
  const boss = openQueue({ supervise: false, schedule: false })
  await boss.start()
  for (const lane of LANES) await boss.createQueue(lane)
  await boss.stop({ graceful: false })
}
