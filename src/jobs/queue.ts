import PgBoss from 'pg-boss'
import { pool, type Transaction } from '@/db/client'

export const QUEUES = { import: 'import', export: 'export', task: 'task' } as const
export type QueueName = keyof typeof QUEUES
/** What every job carries: the id of its row in `imports`, `exports` or `tasks`. */
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
export async function sendJob(tx: Transaction, name: QueueName, id: string, priority = 0): Promise<void> {
  const options = { priority, retryLimit: RETRIES, retryDelay: 0, expireInHours: LONGEST_HOURS }
  await queue().send(name, { id }, { ...options, db: tx as PgBoss.Db })
}

/** Makes the queue's own tables and queues; safe to repeat. */
export async function prepareQueues(): Promise<void> {
  const boss = openQueue({ supervise: false, schedule: false })
  await boss.start()
  for (const name of Object.values(QUEUES)) await boss.createQueue(name)
  await boss.stop({ graceful: false })
}
