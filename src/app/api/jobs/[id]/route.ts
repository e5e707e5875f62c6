import { isUnderWay } from '@/core/messages/job'
import type { JobKind } from '@/core/messages/jobInput'
import { assertMayEnd } from '@/db/arrivals'
import { cancelJob, deleteJob, findJob, loadJob } from '@/db/jobs'
import { forgetExport } from '@/jobs/exportLesson'
import { ownerOf, route } from '../../answer'

/** What somebody asked for alone; what is computed of a lesson others may wait for, too. */
const OF_ONE_PERSON: readonly JobKind[] = ['export', 'import']

/** Cancels what is under way (its worker sees it within a moment), or removes a finished file. */
export const DELETE = route<{ id: string }>(async (request, { id }) => {
  const waiting = await findJob(id)
  if (waiting && isUnderWay(waiting) && OF_ONE_PERSON.includes(waiting.kind)) {
    await assertMayEnd(id, ownerOf(request))
    await cancelJob(id)
  } else {
    const job = await loadJob(id, 'export')
    await forgetExport(id, job.input)
    await deleteJob(id)
  }
  return Response.json({ ok: true })
})
