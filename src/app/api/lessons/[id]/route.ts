import { z } from 'zod'
import { lessonSchema } from '@/core/lesson/document'
import { deleteLesson, loadLesson, saveLesson } from '@/db/lessons'
import { readJson, route } from '../../answer'

const saveSchema = z.object({ base: z.int().min(1), lesson: lessonSchema })

export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { lesson, revision } = await loadLesson(id)
  return Response.json({ lesson, revision })
})

/** Saves on top of revision `base`; 409 where somebody else was quicker. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { base, lesson } = await readJson(request, saveSchema)
  const outcome = await saveLesson(id, base, lesson)
  return Response.json(outcome, { status: outcome.saved ? 200 : 409 })
})

export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await deleteLesson(id)
  return Response.json({ ok: true })
})
