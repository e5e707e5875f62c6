import { z } from 'zod'
import { courseTitle, orderLessons, renameCourse } from '@/db/courses'
import { bringBackCourse, deleteCourse } from '@/db/deleted'
import { readJson, route } from '../../answer'

const changeSchema = z.object({
  title: z.string().trim().min(1).max(200).optional(),
  /** The order of its lessons. */
  lessons: z.array(z.string().max(40)).max(10_000).optional(),
  /** Brings it back. */
  deleted: z.literal(false).optional(),
})

export const PATCH = route<{ id: string }>(async (request, { id }) => {
  const { title, lessons, deleted } = await readJson(request, changeSchema)
  if (deleted === false) await bringBackCourse(id)
  await courseTitle(id)
  if (title !== undefined) await renameCourse(id, title)
  if (lessons !== undefined) await orderLessons(id, lessons)
  return Response.json({ ok: true })
})

/** It can be brought back for a while, with its lessons. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
  await deleteCourse(id)
  return Response.json({ ok: true })
})
