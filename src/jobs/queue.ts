import PgBoss from 'pg-boss'
import { databaseUrl } from '@/db/client'

export const QUEUES = { import: 'import', export: 'export', task: 'task' } as const
export type QueueName = keyof typeof QUEUES
/** What every job carries: the id of its row in `imports`, `exports` or `tasks`. */
export interface JobData {
  id: string
}

/** A job whose worker has died is given to another one so many times. */
const RETRIES = 2
const LONGEST_HOURS = 12

const shared = globalThis as { yarnStepBoss?: Promise<PgBoss> }

/** For the web server: only puts jobs into the queue. */
export async function sendJob(queue: QueueName, id: string, priority = 0): Promise<void> {
  shared.yarnStepBoss ??= startBoss({ supervise: false, schedule: false, migrate: false })
  const boss = await shared.yarnStepBoss
  await boss.send(queue, { id }, { priority, retryLimit: RETRIES, retryDelay: 0, expireInHours: LONGEST_HOURS })
}

export async function startBoss(options: Partial<PgBoss.ConstructorOptions> = {}): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl(), max: 4, ...options })
  boss.on('error', (error) => console.error(error))
  await boss.start()
  return boss
}

/** Makes the queue's own tables and queues; safe to repeat. */
export async function prepareQueues(): Promise<void> {
  const boss = await startBoss({ supervise: false, schedule: false })
  for (const queue of Object.values(QUEUES)) await boss.createQueue(queue)
  await boss.stop({ graceful: false })
}
