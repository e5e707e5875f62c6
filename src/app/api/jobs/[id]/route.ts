import { isUnderWay } from '@/core/messages/job'
import { cancelJob, deleteJob, findJob, loadJob } from '@/db/jobs'
import { forgetExport } from '@/jobs/exportLesson'
import { route } from '../../answer'

/** Cancels what is under way (its worker sees it within a moment), or removes a finished file. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  const waiting = await findJob(id)
  if (waiting && isUnderWay(waiting)) await cancelJob(id)
  else {
    const job = await loadJob(id, 'export')
    await forgetExport(id, job.input)
    await deleteJob(id)
  }
  return Response.json({ ok: true })
})
