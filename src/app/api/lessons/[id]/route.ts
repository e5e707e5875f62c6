import { z } from 'zod'
import { documentOf } from '@/core/lesson/telling'
import { courseTitle } from '@/db/courses'
import { deleteLesson, loadLesson, saveLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { infosOf } from '@/media/lessonMedia'
import { LESSON_BODY, readJson, route } from '../../answer'

/** The lesson itself is looked at where it is stored. */
const saveSchema = z.object({
  base: z
    .int()
    .min(1)
    .max(2 ** 31 - 2),
  save: z.string().regex(/^[\w-]{8,40}$/),
  lesson: z.unknown(),
})

/** All that a page needs to open a lesson, as it is stored now. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { lesson, revision, courseId, save, savedAt } = await loadLesson(id)
  const course = { id: courseId, title: await courseTitle(courseId) }
  const opened = {
    lesson: documentOf(lesson),
    revision,
    save,
    savedAt,
    course,
    media: await infosOf(lesson, mediaStore()),
  }
  return Response.json(opened, { headers: { 'cache-control': 'no-store' } })
})

/** Saves on top of revision `base`; 409 where somebody else was quicker. The same `save` may come again. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { base, lesson, save } = await readJson(request, saveSchema, LESSON_BODY)
  const outcome = await saveLesson(id, base, lesson, save)
  return Response.json(outcome, { status: outcome.saved ? 200 : 409 })
})

export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await deleteLesson(id)
  return Response.json({ ok: true })
})
