import { spokenLoudness } from '@/core/measure/takeVoice'
import { z } from 'zod'
import { corridorShares, clearanceReadings } from '@/core/mix/balanceSheet'
import { planMix } from '@/core/mix/plan'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import { reportLoudness } from '@/core/measure/loudness'
import { courseTargetsSchema, targetsForCourse, type CourseTargets } from './courseTargets'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding, type SoundOf } from '@/core/lesson/sounding'

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

/** `soundOf` and `analysisOf`: by what its takes are heard, and what is known of it. */
export function balanceOf(
  id: string,
  lesson: Lesson,
  { soundOf, analysisOf }: { soundOf: SoundOf; analysisOf: AnalysisOf },
): LessonBalance {
  const timeline = sounding(layoutLesson(lesson), soundOf)
  const { plan, levels } = planMix(lesson, timeline, analysisOf)
  const voice = spokenLoudness(levels.voice, levels.speech)
  const { clearance, within } = corridorShares(
    clearanceReadings(levels.voice, levels.bed, levels.speech),
    levels.clearance,
  )
  const sum = levels.voice.map((energy, i) => energy + levels.bed[i]!)
  return {
    id,
    title: lesson.title,
    targets: targetsForCourse(lesson.targets),
    voice: voice === null ? null : voice + plan.gain,
    clearance,
    within,
    range: reportLoudness(sum).range,
  }
}
