import { join } from 'node:path'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import { planMix } from '@/core/mix/plan'
import { UserError } from '@/core/userError'
import { assertCanBeMade } from '@/media/lessonMedia'
import { STEMS, writeStems } from '@/media/delivery/stems'
import { withArchive } from '../workspace'

export function mix(archive: string, { out, stems, language }: { out: string; stems?: string; language?: string }) {
  return withArchive(archive, language, async ({ lesson, store, sounds }) => {
    const timeline = sounding(layoutLesson(lesson), sounds.soundOf)
    if (timeline.length === 0) throw new UserError('This lesson has no steps yet: there is nothing to mix.')
    await assertCanBeMade(lesson, store)
    const planned = planMix(lesson, timeline, sounds.analysisOf)
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
