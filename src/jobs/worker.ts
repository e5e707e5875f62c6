import type PgBoss from 'pg-boss'
import { updateExport } from '@/db/exports'
import { updateImport } from '@/db/imports'
import { updateTask } from '@/db/tasks'
import { pool } from '@/db/client'
import { exportJob } from './exportJob'
import { importJob } from './importJob'
import { holding, recoverOrphans } from './orphans'
import { taskJob } from './taskJob'
import { QUEUES, startBoss, type JobData, type QueueName } from './queue'

/** The worker process: takes jobs out of the queue until it is told to stop. More of them share the work. */

const AT_ONCE: Record<QueueName, number> = { import: 2, export: 1, task: 2 }
const JOBS = { import: importJob, export: exportJob, task: taskJob }
const FAILURES = { import: updateImport, export: updateExport, task: updateTask }
const LOOK_FOR_ORPHANS = 2000 // ms
const GIVEN_UP =
  'This was broken off several times, so it was given up. Try it again; if it happens again, try a smaller file.'

const boss = await startBoss()
for (const queue of Object.values(QUEUES)) {
  for (let i = 0; i < AT_ONCE[queue]; i++)
    await boss.work<JobData>(queue, { pollingIntervalSeconds: 0.5 }, (jobs) => doJobs(queue, jobs))
}
const timer = setInterval(() => void recoverOrphans(boss, giveUp).catch(console.error), LOOK_FOR_ORPHANS)

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void stop())

async function doJobs(queue: QueueName, jobs: PgBoss.Job<JobData>[]): Promise<void> {
  for (const { id, data } of jobs) await holding(id, () => JOBS[queue](data.id))
}

async function giveUp(queue: QueueName, { id }: JobData): Promise<void> {
  await FAILURES[queue](id, { state: 'failed', error: GIVEN_UP })
}

/** A job in progress is not waited for: another worker, or this one after its restart, begins it again. */
async function stop(): Promise<void> {
  clearInterval(timer)
  await boss.stop({ graceful: false })
  await pool().end()
  process.exit(0)
}
