import { z } from 'zod'
import { createCourse, listCourses } from '@/db/courses'
import { readJson, route } from '../answer'

const titleSchema = z.object({ title: z.string().trim().min(1).max(200) })

export const GET = route(async () => Response.json(await listCourses()))

export const POST = route(async (request) =>
  Response.json({ id: await createCourse((await readJson(request, titleSchema)).title) }),
)
