import { z } from 'zod'
import { pool } from '@/db/client'
import { countWorkers } from '@/jobs/presence'
import { LANES } from '@/jobs/queue'
import { freeBytes } from '@/media/store/disk'
import { objects } from '@/jobs/places'
import { bucketSettings, dataFolder } from '@/media/settings'
import { route } from '../answer'

export const dynamic = 'force-dynamic'

const countsSchema = z.object({ waiting: z.number(), working: z.number() })

/** How the installation is: whether the database answers, what waits and is worked on, who works, and what room is left. */
export const GET = route(async () => {
  const [queue, workers, free, answers] = await Promise.all([
    countJobs(),
    countWorkers(),
    freeBytes(dataFolder()),
    storeAnswers(),
  ])
  const store = { ok: answers && free > 0, kind: bucketSettings() ? 'bucket' : 'folder', freeBytes: free }
  return Response.json({
    ok: workers > 0 && store.ok,
    database: { ok: true },
    store,
    queue: { ok: true, ...queue },
    workers: { ok: workers > 0, count: workers },
  })
})

const storeAnswers = (): Promise<boolean> =>
  objects()
    .size('health')
    .then(
      () => true,
      () => false,
    )

async function countJobs(): Promise<z.infer<typeof countsSchema>> {
  const { rows } = await pool().query(
    `select count(*) filter (where state < 'active')::int as waiting,
       count(*) filter (where state = 'active')::int as working
     from pgboss.job where name = any($1)`,
    [LANES],
  )
  return countsSchema.parse(rows[0])
}
