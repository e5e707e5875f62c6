import { writeFile } from 'node:fs/promises'
import { chaptersOf } from '@/core/captions/chapters'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import type { Loudness, Output } from '@/core/delivery/outputs'
import type { Part } from '@/core/delivery/part'
import { writeSrt, writeTtml, writeVtt } from '@/core/formats/captionFiles'
import { chaptersAsText } from '@/core/formats/chapterFiles'
import { transcriptAsHtml, transcriptAsText } from '@/core/formats/transcripts'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { LessonSounds } from '../lessonMedia'
import type { RenderOptions } from '../mixdown'
import { heardWords, knownWords } from '../speech/lessonWords'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import type { Recoding } from '../video/recode'
import { renderVideo } from '../video/render'
import { renderPackage } from './coursePackage'
import { renderSound } from './renderSound'
import { renderTracks } from './renderTracks'
import { renderVoice } from './renderVoice'
import { transcriptAsDocument } from './transcriptDocument'

/** A lesson whose marks are settled, and where its files are. */
export interface Deliverable {
  lesson: Lesson
  store: MediaStore
  sounds: LessonSounds
  assets: Assets
}

export interface OutputOptions extends RenderOptions {
  /** Only a part of a video or a sound. */
  part?: Part
}

const CAPTIONS = { vtt: writeVtt, srt: writeSrt, ttml: writeTtml }

/** Makes any of the files that can be made of a lesson, and tells what was measured in it; null where nothing sounds. */
export async function makeOutput(
  { lesson, store, sounds, assets }: Deliverable,
  output: Output,
  out: string,
  { part, ...options }: OutputOptions = {},
): Promise<BalanceSheet | null> {
  const heard = () => heardWords(lesson, store, assets, options)
  // Judged by the words where they are known; nobody waits for an alignment to get a sound.
  const known = () => knownWords(lesson, store, assets)
  switch (output.kind) {
    case 'video': {
      const shown = withMusic(atLoudness(lesson, output.loudness), output.hasMusic)
      const recoding: Recoding | null = output.container === 'webm' ? 'webm' : output.size === 'small' ? 'small' : null
      const all = { ...options, part, recoding, heard: await heard(), captions: output.captions }
      return (await renderVideo(shown, store, sounds, assets, out, all)).balance
    }
    case 'sound': {
      const asked = atLoudness(lesson, output.loudness)
      return (await renderSound(asked, store, sounds, out, output.format, { ...options, part, heard: await known() }))
        .balance
    }
    case 'package':
      return renderPackage(lesson, store, sounds, assets, output.standard, out, { ...options, heard: await heard() })
    case 'tracks':
      return renderTracks(lesson, store, sounds, out, { ...options, heard: await known() })
    case 'voice':
      await renderVoice(lesson, store, sounds, output.format, out, options)
      return null
    default:
      await writeFile(out, await textOf(output))
      return null
  }

  async function textOf(
    text: Extract<Output, { kind: 'captions' | 'transcript' | 'chapters' }>,
  ): Promise<string | Buffer> {
    const timeline = layoutLesson(lesson)
    if (text.kind === 'chapters') return chaptersAsText(chaptersOf(timeline))
    if (text.kind === 'captions')
      return CAPTIONS[text.format](lessonCaptions(lesson, timeline, await heard()), lesson.language)
    if (text.format === 'docx')
      return transcriptAsDocument(
        { lesson, store, assets },
        { hasTimes: true, hasPictures: true, signal: options.signal },
      )
    return text.format === 'txt'
      ? transcriptAsText(lesson.title, timeline, { hasTimes: true })
      : transcriptAsHtml(lesson.title, lesson.language, timeline, { hasTimes: true })
  }
}

const atLoudness = (lesson: Lesson, loudness: Loudness): Lesson =>
  loudness ? { ...lesson, targets: { ...lesson.targets, ...loudness } } : lesson

const withMusic = (lesson: Lesson, hasMusic: boolean): Lesson =>
  hasMusic ? lesson : { ...lesson, tracks: { ...lesson.tracks, bed: { ...lesson.tracks.bed, muted: true } } }
