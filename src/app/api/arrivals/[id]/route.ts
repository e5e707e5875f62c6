import { z } from 'zod'
import { isUnderWay } from '@/core/messages/job'
import { deleteArrival, loadOwnArrival, updateArrival } from '@/db/arrivals'
import { cancelJob, findJob } from '@/db/jobs'
import { removePieces } from '@/jobs/pieces'
import { removeUpload } from '@/jobs/uploads'
import { ownerOf, readJson, route } from '../../answer'

const changeSchema = z.object({ state: z.literal('taken') })

/** It is in its lesson, as a file of its own: only now its pieces may go. */
export const PATCH = route<{ id: string }>(async (request, { id }) => {
  const change = await readJson(request, changeSchema)
  await loadOwnArrival(id, ownerOf(request))
  await updateArrival(id, change)
  await removePieces(id)
  return Response.json({ ok: true })
})

/** Throws it away, and ends what is being done with it. */
export const DELETE = route<{ id: string }>(async (request, { id }) => {
  const { kind, importId } = await loadOwnArrival(id, ownerOf(request))
  const job = importId === null ? null : await findJob(importId)
  if (job && isUnderWay(job)) await cancelJob(job.id)
  // Its bytes first: as long as any are left, it is told and can be thrown away.
  await (kind === 'file' ? removeUpload(id) : removePieces(id))
  await deleteArrival(id)
  return Response.json({ ok: true })
})
