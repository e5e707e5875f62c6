import { takeSpeech } from '@/core/measure/takeVoice'
import { readFile } from 'node:fs/promises'
import { basename } from 'node:path'
import { nanoid } from 'nanoid'
import { layoutLesson } from '@/core/lesson/layout'
import { firstLesson, picturesOf, scriptToFind } from '@/core/lesson/firstLesson'
import { titleFromName, type MediaInfo } from '@/core/messages/media'
import { readScript } from '@/core/narration/words/script'
import { UserError } from '@/core/userError'
import { wordsOfTake } from '@/media/speech/takeWords'
import { writeArchive } from '@/media/archive'
import { importFile, importSoundFile, withStore } from '../workspace'

interface NewOptions {
  pictures: string[]
  voice: string
  bed?: string
  script?: string
  title?: string
  language: string
  out: string
}

export function newLesson({ pictures, voice, bed, script, title, language, out }: NewOptions) {
  return withStore(async (store, assets) => {
    const shown: MediaInfo[] = []
    for (const path of pictures) {
      const media = await importFile(store, path)
      if (picturesOf(media).length === 0)
        throw new UserError(`There is nothing to see in this file: ${path}. Choose pictures, a PDF or a recording.`)
      shown.push(media)
    }
    const reading = await importSoundFile(store, voice)
    const song = bed ? await importSoundFile(store, bed) : null
    const named = {
      title: title ?? titleFromName(basename(pictures[0]!)),
      pictures: shown,
      script: script ? await readFile(script, 'utf8') : undefined,
    }
    const text = scriptToFind(named)
    const whole = { media: reading.media.hash, from: 0, to: reading.media.length! }
    const found =
      readScript(text).words.length > 0
        ? await wordsOfTake(store, assets, { kind: 'align', ...whole, script: text, language })
        : undefined
    const lesson = firstLesson(
      {
        ...named,
        found,
        voices: [{ media: reading.media, speech: takeSpeech(reading.analysis) }],
        music: song ? [song.media] : [],
      },
      () => nanoid(10),
    )
    const told = language === 'en' ? lesson : { ...lesson, language, mainLanguage: language }
    await writeArchive(told, store, out)
    const timeline = layoutLesson(lesson)
    return {
      title: lesson.title,
      length: timeline.length,
      steps: timeline.steps.map(({ step, start, end }) => ({ id: step.id, title: step.title, start, end })),
    }
  })
}
