import { z } from 'zod'
import { recordingDetailsSchema } from '@/core/messages/arrival'
import { loadOwnRecording, updateArrival } from '@/db/arrivals'
import { ownerOf, readJson, route } from '../../answer'

const changeSchema = z.object({ details: recordingDetailsSchema })

/** New marks. */
export const PATCH = route<{ id: string }>(async (request, { id }) => {
  const change = await readJson(request, changeSchema)
  await loadOwnRecording(id, ownerOf(request))
  await updateArrival(id, change)
  return Response.json({ ok: true })
})
