import { checkLesson } from '@/core/check/findings'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { withArchive } from '../workspace'

export function check(archive: string) {
  return withArchive(archive, async ({ lesson, analysisOf, mediaOf }) => {
    const timeline = layoutLesson(lesson)
    return { findings: checkLesson(lesson, timeline, planMix(lesson, timeline, analysisOf), analysisOf, mediaOf) }
  })
}
