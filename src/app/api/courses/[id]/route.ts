import { z } from 'zod'
import { renameCourse } from '@/db/courses'
import { readJson, route } from '../../answer'

const titleSchema = z.object({ title: z.string().trim().min(1).max(200) })

export const PATCH = route<{ id: string }>(async (request, { id }) => {
  await renameCourse(id, (await readJson(request, titleSchema)).title)
  return Response.json({ ok: true })
})
