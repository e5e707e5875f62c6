import { nanoid } from 'nanoid'
import { z } from 'zod'
import { applyEdit } from '@/core/lesson/edits'
import { LIMITS } from '@/core/lesson/limits'
import { documentOf } from '@/core/lesson/telling'
import { UserError } from '@/core/userError'
import { courseTitle } from '@/db/courses'
import { bringBackLesson, deleteLesson } from '@/db/deleted'
import { loadLesson, moveLesson, revisionOfSaves, saveLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { infosOf } from '@/media/lessonMedia'
import { say } from '@/messages/say'
import { LESSON_BODY, readJson, readQuery, route } from '../../answer'

const SAVE = /^[\w-]{8,40}$/
/** Saves that may have been done, though no answer came. */
const openSchema = z.object({
  saves: z
    .string()
    .optional()
    .transform((list) => list?.split(',').filter((save) => SAVE.test(save)) ?? [])
    .pipe(z.array(z.string()).max(40)),
})

/** The lesson itself is looked at where it is stored. */
const saveSchema = z.object({
  base: z
    .int()
    .min(1)
    .max(2 ** 31 - 2),
  save: z.string().regex(SAVE),
  lesson: z.unknown(),
})

/** All that a page needs to open a lesson, as it is stored now. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const { saves } = readQuery(request, openSchema)
  const { lesson, revision, courseId, savedAt } = await loadLesson(id)
  const course = { id: courseId, title: await courseTitle(courseId) }
  const opened = {
    lesson: documentOf(lesson),
    revision,
    done: await revisionOfSaves(id, saves),
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

const changeSchema = z.object({
  title: z.string().trim().min(1).max(LIMITS.nameCharacters).optional(),
  course: z.string().max(40).optional(),
  /** Brings it back. */
  deleted: z.literal(false).optional(),
})

/** Another title, another course, or back from being deleted. */
export const PATCH = route<{ id: string }>(async (request, { id }) => {
  const { title, course, deleted } = await readJson(request, changeSchema)
  if (deleted === false) await bringBackLesson(id)
  if (course !== undefined) {
    await courseTitle(course)
    await moveLesson(id, course)
  }
  if (title !== undefined) await rename(id, title)
  return Response.json({ ok: true })
})

async function rename(id: string, title: string): Promise<void> {
  const { lesson, revision } = await loadLesson(id)
  const renamed = documentOf(applyEdit(lesson, { name: 'renameLesson', title }))
  const { saved } = await saveLesson(id, revision, renamed, nanoid())
  if (!saved) throw new UserError(say('server.changedMeanwhile'))
}

/** It can be brought back for a while. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await deleteLesson(id)
  return Response.json({ ok: true })
})
