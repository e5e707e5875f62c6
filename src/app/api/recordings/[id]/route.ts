import { z } from 'zod'
import { recordingDetailsSchema } from '@/core/messages/recording'
import { deleteRecording, loadOwnRecording, updateRecording } from '@/db/recordings'
import { removePieces } from '@/jobs/pieces'
import { ownerOf, readJson, route } from '../../answer'

const changeSchema = z.object({ details: recordingDetailsSchema.optional(), state: z.literal('taken').optional() })

/** New marks, or that it is in the lesson now. */
export const PATCH = route<{ id: string }>(async (request, { id }) => {
  const change = await readJson(request, changeSchema)
  await loadOwnRecording(id, ownerOf(request))
  await updateRecording(id, change)
  // It is in the lesson, as a file of its own: only now its pieces may go.
  if (change.state === 'taken') await removePieces(id)
  return Response.json({ ok: true })
})

/** Throws a recording away. */
export const DELETE = route<{ id: string }>(async (request, { id }) => {
  await loadOwnRecording(id, ownerOf(request))
  await deleteRecording(id)
  await removePieces(id)
  return Response.json({ ok: true })
})
