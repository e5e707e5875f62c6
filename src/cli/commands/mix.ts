import { join } from 'node:path'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { UserError } from '@/core/userError'
import { assertCanBeMade } from '@/media/lessonMedia'
import { STEMS, writeStems } from '../stems'
import { withArchive } from '../workspace'

export function mix(archive: string, { out, stems }: { out: string; stems?: string }) {
  return withArchive(archive, async ({ lesson, store, analysisOf }) => {
    const timeline = layoutLesson(lesson)
    if (timeline.length === 0) throw new UserError('This lesson has no steps yet: there is nothing to mix.')
    await assertCanBeMade(lesson, store)
    const planned = planMix(lesson, timeline, analysisOf)
    return writeStems(planned, store, {
      [out]: STEMS.sum,
      ...(stems && {
        [join(stems, 'voice.wav')]: STEMS.voice,
        [join(stems, 'bed.wav')]: STEMS.bed,
        [join(stems, 'bed-raw.wav')]: STEMS.bedRaw,
        [join(stems, 'sounds.wav')]: STEMS.sounds,
      }),
    })
  })
}
