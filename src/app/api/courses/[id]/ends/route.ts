import { z } from 'zod'
import { sharedStepsSchema } from '@/core/course/sharedSteps'
import { courseEnds, setCourseEnd } from '@/db/courseEnds'
import { LESSON_BODY, readJson, route } from '../../../answer'

const changeSchema = z.object({
  end: z.enum(['first', 'last']),
  steps: sharedStepsSchema.nullable(),
  /** What they are as far as whoever changes them knows. */
  before: sharedStepsSchema.nullable(),
  open: z.string().max(40),
  /** Lessons keep as their own what they shared until now. */
  isLeft: z.boolean().default(false),
})

/** The steps that all lessons of the course begin and end with. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await courseEnds(id)))

/** Lessons that began, or ended, as the course did follow. 412 where the course says something else by now. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
  const { end, steps, before, open, isLeft } = await readJson(request, changeSchema, LESSON_BODY)
  return Response.json({ followed: await setCourseEnd(id, end, steps, { open, isLeft, before }) })
})
