import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import type PgBoss from 'pg-boss'
import { pool } from '@/db/client'
import { projectFolder } from '@/media/settings'
import { letGo, recoverOrphans, resendLost, takeJob } from './orphans'
import { giveUpJob, performJob } from './performJob'
import { workInThreads } from './threads'
import { clearAway } from './clearAway'
import { endWithParent } from './parent'
import { clearLeftovers } from './places'
import { beThere, connectWatched } from './presence'
import { LANES, openQueue, queue, type JobData, type Lane } from './queue'

/** The worker process: takes jobs out of the queue until it is told to stop. More of them share the work. */

const AT_ONCE: Record<Lane, number> = { import: 2, export: 1, task: 2, quick: 1 }
const LOOK_FOR_JOBS = 500 // ms
const LOOK_FOR_ORPHANS = 2000 // ms
const LOOK_FOR_LOST = 60_000 // ms
const CLEAR_AWAY = 24 * 3600_000 // ms

let stopping = false

process.umask(0o077)

endWithParent()
workInThreads(join(projectFolder(), 'dist', 'thread.mjs'))
// Its own upkeep (expired and old jobs) goes on by itself; what fails is tried again at its next turn.
const upkeep = openQueue({ schedule: false, migrate: false })
void again(LOOK_FOR_LOST, async () => {
  const sent = await resendLost()
  if (sent > 0) console.log(`${sent} jobs had been lost and were sent again.`)
})
void again(LOOK_FOR_ORPHANS, beThere)
void again(LOOK_FOR_ORPHANS, () => recoverOrphans(({ id }) => giveUpJob(id)))
for (const lane of LANES) for (let i = 0; i < AT_ONCE[lane]; i++) void again(LOOK_FOR_JOBS, () => takeJobs(lane))
void again(CLEAR_AWAY, () => clearAway())
void startUpkeep()
void clearLeftovers().catch(tell)

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void stop())

/** Does `work` now and after every `wait`; a failure (a database that is away) is told and tried again. */
async function again(wait: number, work: () => Promise<unknown>): Promise<void> {
  while (!stopping) {
    await work().catch(tell)
    await sleep(wait)
  }
}

/** One after the other, for as long as there is a connection: on it lie the locks of what it takes. */
async function takeJobs(lane: Lane): Promise<void> {
  let isLost = false
  const client = await connectWatched((error) => {
    isLost = true
    console.error(`A connection that takes jobs (${lane}) was lost: ${error.message}`)
  })
  try {
    while (!stopping && !isLost) {
      const job = await takeJob(lane, client)
      if (job) await doJob(lane, job).finally(() => letGo(client, job.id))
      else await sleep(LOOK_FOR_JOBS)
    }
  } finally {
    await client.end().catch(() => {})
  }
}

/** A job that throws has not ended: it is given out again. What its author should know stands in its row by then. */
async function doJob(lane: Lane, { id, data }: PgBoss.Job<JobData>): Promise<void> {
  try {
    await performJob(data.id)
    await queue().complete(lane, id)
  } catch (error) {
    tell(error)
    await queue().fail(lane, id, { reason: String(error) })
  }
}

async function startUpkeep(): Promise<void> {
  while (!stopping) {
    try {
      await upkeep.start()
      return
    } catch (error) {
      tell(error)
      await sleep(LOOK_FOR_ORPHANS)
    }
  }
}

function tell(error: unknown): void {
  console.error(error instanceof Error ? (error.stack ?? error.message) : error)
}

/** A job in progress is not waited for: another worker, or this one after its restart, begins it again. */
async function stop(): Promise<void> {
  stopping = true
  // What waits for a database that is away is not waited for.
  setTimeout(() => process.exit(0), 2000).unref()
  await upkeep.stop({ graceful: false }).catch(() => {})
  await pool().end()
  process.exit(0)
}
