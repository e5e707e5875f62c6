import { courseStyleSchema } from '@/core/course/courseStyle'
import { courseStyle, setCourseStyle } from '@/db/courseStyles'
import { readJson, route } from '../../../answer'

/** How the lessons of the course look; null where nobody has said so. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await courseStyle(id)))

/** Lessons that were as the course was follow. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const style = await readJson(request, courseStyleSchema)
  return Response.json({ followed: await setCourseStyle(id, style) })
})
