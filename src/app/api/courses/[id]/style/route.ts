import { z } from 'zod'
import { courseStyleSchema } from '@/core/course/courseStyle'
import { courseStyle, setCourseStyle } from '@/db/courseStyles'
import { readJson, route } from '../../../answer'

/** How the lessons of the course look; null where nobody has said so. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await courseStyle(id)))

const changeSchema = z.object({
  style: courseStyleSchema,
  /** What the course said as far as whoever changes it knows. */
  before: courseStyleSchema.nullable(),
})

/** Lessons that were as the course was follow. 412 where it says something else by now. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { style, before } = await readJson(request, changeSchema)
  return Response.json({ followed: await setCourseStyle(id, style, before) })
})
