import { z } from 'zod'
import { recordingDetailsSchema } from '@/core/messages/arrival'
import { openArrival } from '@/db/arrivals'
import { loadLesson } from '@/db/lessons'
import { ownerOf, readJson, route } from '../answer'

const openSchema = z.object({
  id: z.string().regex(/^[\w-]{8,40}$/),
  lesson: z.string(),
  kind: z.enum(['voice', 'room', 'picture']),
  details: recordingDetailsSchema,
})

/** A recording begins; its browser has chosen the id. */
export const POST = route(async (request) => {
  const { id, lesson, kind, details } = await readJson(request, openSchema)
  await loadLesson(lesson)
  await openArrival({ id, lessonId: lesson, kind, details, owner: ownerOf(request) })
  return Response.json({ id })
})
