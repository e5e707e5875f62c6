import { join } from 'node:path'
import { assertCanBeMade } from '@/media/lessonMedia'
import { STEMS, writeStems } from '@/media/delivery/stems'
import { knownWords } from '@/media/speech/lessonWords'
import { planFinished } from '@/media/video/render'
import { withArchive } from '../workspace'

export function mix(archive: string, { out, stems, language }: { out: string; stems?: string; language?: string }) {
  return withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
    const { planned } = planFinished(lesson, sounds, await knownWords(lesson, store, assets))
    await assertCanBeMade(lesson, store)
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
