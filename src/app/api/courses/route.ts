import { z } from 'zod'
import { createCourse, listCourses, orderCourses } from '@/db/courses'
import { readJson, route } from '../answer'

const titleSchema = z.object({ title: z.string().trim().min(1).max(200) })
const orderSchema = z.object({ order: z.array(z.string().max(40)).max(10_000) })

export const GET = route(async () => Response.json(await listCourses()))

export const POST = route(async (request) =>
  Response.json({ id: await createCourse((await readJson(request, titleSchema)).title) }),
)

export const PATCH = route(async (request) => {
  await orderCourses((await readJson(request, orderSchema)).order)
  return Response.json({ ok: true })
})
