import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { checkCaptions } from '@/core/check/captions'
import { checkScripts } from '@/core/check/scripts'
import { checkLesson } from '@/core/check/findings'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import { planMix } from '@/core/mix/plan'
import { heardWords } from '@/media/speech/lessonWords'
import { withArchive } from '../workspace'

interface CheckOptions {
  language?: string
  /** Captions and scripts: needs all words found first. */
  captions?: boolean
}

export function check(archive: string, { language, captions }: CheckOptions) {
  return withArchive(archive, language, async ({ lesson, store, assets, sounds: { soundOf, analysisOf }, mediaOf }) => {
    const timeline = sounding(layoutLesson(lesson), soundOf)
    const heard = captions ? await heardWords(lesson, store, assets) : null
    const planned = planMix(lesson, timeline, analysisOf)
    return {
      findings: [
        ...checkLesson(lesson, timeline, planned, analysisOf, mediaOf),
        ...(heard ? checkScripts(lesson, timeline, heard) : []),
        ...(heard ? checkCaptions(lesson, timeline, lessonCaptions(lesson, timeline, heard)) : []),
      ],
    }
  })
}
