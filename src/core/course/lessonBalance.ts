import { z } from 'zod'
import { courseTargetsSchema, type CourseTargets } from './courseTargets'

/** How a lesson sounds as it is planned now; null where there is no voice, or no music under it. */
export const lessonBalanceSchema = z.object({
  id: z.string(),
  title: z.string(),
  targets: courseTargetsSchema,
  /** In LUFS as it stands in the finished mix. */
  voice: z.number().nullable(),
  clearance: z.number().nullable(),
  within: z.number().nullable(),
  /** Loudness range of the planned mix in LU. */
  range: z.number().nullable(),
})
export type LessonBalance = z.infer<typeof lessonBalanceSchema>

/** A lesson of a course and what it is set to, before anything is computed of it. */
export interface CourseLesson {
  id: string
  title: string
  revision: number
  targets: CourseTargets
}
