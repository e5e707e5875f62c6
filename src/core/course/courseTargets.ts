import { z } from 'zod'
import type { MixTargets } from '@/core/lesson/document'
import { DEFAULT_TARGETS } from '@/core/lesson/newParts'

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
  const usual = (target: keyof CourseTargets) => {
    const counts = new Map<number, number>()
    for (const targets of lessons) counts.set(targets[target], (counts.get(targets[target]) ?? 0) + 1)
    return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? DEFAULT_TARGETS[target]
  }
  return { loudness: usual('loudness'), clearance: usual('clearance'), swell: usual('swell') }
}

export const targetsForCourse = ({ loudness, clearance, swell }: MixTargets): CourseTargets => ({
  loudness,
  clearance,
  swell,
})
