import { createWriteStream } from 'node:fs'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'
import type { Lesson } from '@/core/lesson/document'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { LessonSounds } from '../lessonMedia'
import type { RenderOptions } from '../mixdown'
import type { MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { planFinished } from '../video/render'
import { TRACK_STEMS, writeStems } from './stems'

/** Every track as it stands in the mix, all equally long, as WAV files in a zip: together they are the mix. */
export function renderTracks(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  out: string,
  options: RenderOptions = {},
): Promise<BalanceSheet> {
  const { planned } = planFinished(lesson, sounds)
  return withWorkFolder(async (work) => {
    const files = Object.entries(TRACK_STEMS).map(([name, pick]) => [join(work, `${name}.wav`), pick] as const)
    const balance = await writeStems(planned, store, Object.fromEntries(files), options)
    const zip = new yazl.ZipFile()
    for (const [name] of Object.entries(TRACK_STEMS)) zip.addFile(join(work, `${name}.wav`), `${name}.wav`)
    zip.end()
    await pipeline(zip.outputStream as Readable, createWriteStream(out))
    return balance
  })
}
