import { rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { chaptersOf, type Chapter } from '@/core/captions/chapters'
import { languageCode } from '@/core/captions/languageCode'
import { writeMetadata } from '@/core/formats/chapterFiles'
import { clock } from '@/core/formats/captionFiles'
import type { SoundFormat } from '@/core/delivery/outputs'
import { chaptersWithin, levelsWithin, samplesOf, wholeOf, type Part } from '@/core/delivery/part'
import type { Lesson } from '@/core/lesson/document'
import type { HeardWords } from '@/core/narration/words/stepWords'
import { AAC } from '../aac'
import { inputOf } from '../ffmpeg'
import type { LessonSounds } from '../lessonMedia'
import { encodeMixdown, measureFinished, type RenderOptions } from '../mixdown'
import { storeSource, type MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'
import { planFinished, type Finished } from '../video/render'

/** How the sound of a lesson is coded, and by what it is read again to be measured. */
const CODINGS: Record<SoundFormat, { coding: readonly string[]; demuxer: string }> = {
  wav: { coding: ['-c:a', 'pcm_s24le'], demuxer: 'wav' },
  flac: { coding: ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24'], demuxer: 'flac' },
  mp3: { coding: ['-c:a', 'libmp3lame', '-b:a', '192k', '-id3v2_version', '3'], demuxer: 'mp3' },
  m4a: { coding: [...AAC, '-movflags', '+faststart'], demuxer: 'mov' },
  opus: { coding: ['-c:a', 'libopus', '-b:a', '128k'], demuxer: 'ogg' },
}

export interface SoundOptions extends RenderOptions {
  /** Only a part of it. */
  part?: Part
  /** The words of its takes, by which it is judged. */
  heard?: HeardWords
}

/** Makes the lesson's sound alone, with its title and, where the format has them, its chapters; and measures it. */
export async function renderSound(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  out: string,
  format: SoundFormat = 'wav',
  { part: asked, heard, ...options }: SoundOptions = {},
): Promise<Finished> {
  const { timeline, planned } = planFinished(lesson, sounds, heard)
  const part = asked ?? wholeOf(timeline)
  // A whole lesson ends with its last sample, not with its last frame.
  const range = asked ? samplesOf(asked) : { from: 0, to: planned.plan.length }
  const samples = storeSource(store)
  const { coding, demuxer } = CODINGS[format]
  // Beside the file, so that it can take its place at once.
  const draft = `${out}.part.${format}`
  try {
    return await withWorkFolder(async (work) => {
      const metadata = join(work, 'metadata.txt')
      const chapters = chaptersWithin(chaptersOf(timeline), part)
      await writeFile(metadata, writeMetadata(tagsOf(lesson, format, chapters), chapters))
      const told = [...inputOf(metadata, 'ffmetadata'), '-map', '0:a', '-map_metadata', '1']
      const args = [
        ...told,
        ...languageOf(lesson, format),
        '-map_chapters',
        BY_COMMENTS.includes(format) ? '-1' : '1',
        ...coding,
        draft,
      ]
      const stems = await encodeMixdown(planned, samples.source, range, args, options)
      const balance = await measureFinished(draft, demuxer, levelsWithin(planned.levels, part), stems, null)
      await rename(draft, out)
      return { balance, timeline }
    })
  } finally {
    await samples.close()
    await rm(draft, { force: true })
  }
}

/**
 * Formats whose chapters are comments (Xiph's chapter extension). Written here: ffmpeg writes none into FLAC, and into Ogg the
 * second after the right one where a chapter begins in the later half of it.
 */
const BY_COMMENTS: readonly SoundFormat[] = ['flac', 'opus']

/** Where a format has a place of its own for the language, it is a code of three letters. */
function languageOf({ language }: Lesson, format: SoundFormat): string[] {
  const code = `language=${languageCode(language)}`
  if (format === 'mp3') return ['-metadata', code]
  return format === 'm4a' ? ['-metadata:s:a', code] : []
}

function tagsOf(
  { title, language }: Lesson,
  format: SoundFormat,
  chapters: readonly Chapter[],
): Record<string, string> {
  const named = BY_COMMENTS.includes(format) ? chapters : []
  const own = named.flatMap((chapter, i): [string, string][] => {
    const number = `CHAPTER${String(i).padStart(3, '0')}`
    return [
      [number, clock(chapter.start, '.')],
      [`${number}NAME`, chapter.title],
    ]
  })
  return { title, ...(format === 'mp3' ? {} : { language }), ...Object.fromEntries(own) }
}
