import { z } from 'zod'
import type { MixTargets } from '@/core/lesson/document'
import { DEFAULT_TARGETS } from '@/core/lesson/newParts'
import { usual } from './usual'

/** What all lessons of a course share, so that they sound alike. */
export const courseTargetsSchema = z.object({
  loudness: z.number().min(-31).max(-9),
  clearance: z.number().min(3).max(40),
  swell: z.number().min(-6).max(40),
})
export type CourseTargets = z.infer<typeof courseTargetsSchema>
export const COURSE_TARGETS = ['loudness', 'clearance', 'swell'] as const

/** What most lessons of a course are set to; each target by itself. */
export function usualTargets(lessons: readonly CourseTargets[]): CourseTargets {
  const of = (target: keyof CourseTargets) => usual(lessons.map((one) => one[target])) ?? DEFAULT_TARGETS[target]
  return { loudness: of('loudness'), clearance: of('clearance'), swell: of('swell') }
}

export const targetsForCourse = ({ loudness, clearance, swell }: MixTargets): CourseTargets => ({
  loudness,
  clearance,
  swell,
})
