import { spokenLoudness } from '@/core/measure/takeVoice'
import { corridorShares, clearanceReadings } from '@/core/mix/balanceSheet'
import { planMix } from '@/core/mix/plan'
import type { AnalysisOf } from '@/core/mix/mixPlan'
import { reportLoudness } from '@/core/measure/loudness'
import { targetsForCourse } from './courseTargets'
import type { LessonBalance } from './lessonBalance'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding, type SoundOf } from '@/core/lesson/sounding'

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
    clearanceReadings(levels.voice, levels.bed, levels.speech, levels.music),
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
