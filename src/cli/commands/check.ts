import { checkLesson } from '@/core/check/findings'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import { planMix } from '@/core/mix/plan'
import { withArchive } from '../workspace'

export function check(archive: string, { language }: { language?: string }) {
  return withArchive(archive, language, async ({ lesson, sounds: { soundOf, analysisOf }, mediaOf }) => {
    const timeline = sounding(layoutLesson(lesson), soundOf)
    return { findings: checkLesson(lesson, timeline, planMix(lesson, timeline, analysisOf), analysisOf, mediaOf) }
  })
}
