import { isUnderWay } from '@/core/messages/job'
import { cancelJob, deleteJob, loadJob } from '@/db/jobs'
import { forgetExport } from '@/jobs/exportLesson'
import { route } from '../../answer'

/** Cancels a file in the making (its worker sees it within a moment), or removes a finished one. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  const job = await loadJob(id, 'export')
  if (isUnderWay(job)) await cancelJob(id)
  else {
    await forgetExport(id, job.input)
    await deleteJob(id)
  }
  return Response.json({ ok: true })
})
