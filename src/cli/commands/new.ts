import { readFile } from 'node:fs/promises'
import { basename } from 'node:path'
import { nanoid } from 'nanoid'
import { layoutLesson } from '@/core/lesson/layout'
import { firstLesson, picturesOf } from '@/core/lesson/firstLesson'
import { titleFromName, type MediaInfo } from '@/core/lesson/media'
import { takeSpeech } from '@/core/mix/voiceClips'
import { UserError } from '@/core/userError'
import { writeArchive } from '@/media/archive'
import { importFile, importSoundFile, withStore } from '../workspace'

interface NewOptions {
  pictures: string[]
  voice: string
  bed?: string
  script?: string
  title?: string
  out: string
}

export function newLesson({ pictures, voice, bed, script, title, out }: NewOptions) {
  return withStore(async (store) => {
    const shown: MediaInfo[] = []
    for (const path of pictures) {
      const media = await importFile(store, path)
      if (picturesOf(media).length === 0)
        throw new UserError(`There is nothing to see in this file: ${path}. Choose pictures, a PDF or a recording.`)
      shown.push(media)
    }
    const reading = await importSoundFile(store, voice)
    const song = bed ? await importSoundFile(store, bed) : null
    const lesson = firstLesson(
      {
        title: title ?? titleFromName(basename(pictures[0]!)),
        pictures: shown,
        voices: [{ media: reading.media, speech: takeSpeech(reading.analysis) }],
        music: song ? [song.media] : [],
        script: script ? await readFile(script, 'utf8') : undefined,
      },
      () => nanoid(10),
    )
    await writeArchive(lesson, store, out)
    const timeline = layoutLesson(lesson)
    return {
      title: lesson.title,
      length: timeline.length,
      steps: timeline.steps.map(({ step, start, end }) => ({ id: step.id, title: step.title, start, end })),
    }
  })
}
