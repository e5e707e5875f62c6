import { writeFile } from 'node:fs/promises'
import { chaptersOf } from '@/core/captions/chapters'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { writeSrt, writeTtml, writeVtt } from '@/core/formats/captionFiles'
import { chaptersAsText, chaptersAsVtt } from '@/core/formats/chapterFiles'
import { transcriptAsHtml, transcriptAsText } from '@/core/formats/transcripts'
import { layoutLesson } from '@/core/lesson/layout'
import { UserError } from '@/core/userError'
import { transcriptAsDocument } from '@/media/delivery/transcriptDocument'
import { heardWords } from '@/media/speech/lessonWords'
import { byEnding } from '../byEnding'
import { withArchive } from '../workspace'

interface TextOptions {
  out: string
  language?: string
}

export function captions(archive: string, { out, language }: TextOptions) {
  const write = byEnding(out, { '.vtt': writeVtt, '.srt': writeSrt, '.ttml': writeTtml })
  return withArchive(archive, language, async ({ lesson, store, assets }) => {
    const made = lessonCaptions(lesson, layoutLesson(lesson), await heardWords(lesson, store, assets))
    await writeFile(out, write(made, lesson.language))
    return { captions: made.map(({ start, end, lines }) => ({ start, end, lines })) }
  })
}

export function chapters(archive: string, { out, language }: TextOptions) {
  const write = byEnding(out, { '.vtt': chaptersAsVtt, '.txt': chaptersAsText })
  return withArchive(archive, language, async ({ lesson }) => {
    const made = chaptersOf(layoutLesson(lesson))
    await writeFile(out, write(made))
    return { chapters: made }
  })
}

interface TranscriptOptions extends TextOptions {
  times?: boolean
  /** Of a document. */
  pictures?: boolean
}

export function transcript(archive: string, { out, language, times, pictures }: TranscriptOptions) {
  const way = byEnding(out, { '.txt': 'text', '.html': 'html', '.docx': 'document' } as const)
  if (pictures && way !== 'document')
    throw new UserError('Only a document has pictures in it. Leave --pictures out, or let --out end in .docx.')
  return withArchive(archive, language, async ({ lesson, store, assets }) => {
    const [timeline, options] = [layoutLesson(lesson), { hasTimes: times ?? false, hasPictures: pictures ?? false }]
    const make = {
      text: () => transcriptAsText(lesson.title, timeline, options),
      html: () => transcriptAsHtml(lesson.title, lesson.language, timeline, options),
      document: () => transcriptAsDocument({ lesson, store, assets }, options),
    }
    await writeFile(out, await make[way]())
    return { title: lesson.title, steps: lesson.steps.length }
  })
}
