import { join } from 'node:path'
import type { Lesson } from '@/core/lesson/document'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { HeardWords } from '@/core/narration/words/stepWords'
import type { LessonSounds } from '../lessonMedia'
import type { RenderOptions } from '../mixdown'
import type { MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { planFinished } from '../video/render'
import { fileInZip, writeZip } from '../writeZip'
import { TRACK_STEMS, writeStems } from './stems'

/** Every track as it stands in the mix, all equally long, as WAV files in a zip: together they are the mix. */
export function renderTracks(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  out: string,
  { heard, ...options }: RenderOptions & { heard?: HeardWords } = {},
): Promise<BalanceSheet> {
  const { planned } = planFinished(lesson, sounds, heard)
  return withWorkFolder(async (work) => {
    const fileOf = (name: string) => join(work, `${name}.wav`)
    const tracks = Object.entries(TRACK_STEMS)
    const files = Object.fromEntries(tracks.map(([name, pick]) => [fileOf(name), pick]))
    const balance = await writeStems(planned, store, files, options)
    await writeZip(
      tracks.map(([name]) => fileInZip(`${name}.wav`, fileOf(name))),
      out,
    )
    return balance
  })
}
