import type { Lesson } from '@/core/lesson/document'
import type { ExportKind } from '@/core/messages/exports'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { assertCanBeMade, soundsOf } from '@/media/lessonMedia'
import type { RenderOptions } from '@/media/mixdown'
import { heardWords } from '@/media/speech/lessonWords'
import { withMarksSettled } from '@/media/speech/settleLesson'
import { renderSound } from '@/media/renderSound'
import { renderVideo } from '@/media/video/render'
import { renderVoice } from '@/media/voiceFile'
import { assetStore, mediaStore } from './places'

export interface ExportWork {
  kind: ExportKind
  lesson: Lesson
  /** The file to make. */
  out: string
}

/** Makes a finished file, and what was measured in it. Takes long, and may be done in a thread of its own. */
export async function makeExport(
  { kind, lesson: asked, out }: ExportWork,
  options: RenderOptions,
): Promise<BalanceSheet | null> {
  const [store, assets] = [mediaStore(), assetStore()]
  await assertCanBeMade(asked, store)
  const lesson = await withMarksSettled(asked, store, assets, options)
  const sounds = await soundsOf(lesson, store, options)
  switch (kind) {
    case 'video': {
      const heard = await heardWords(lesson, store, assets, options)
      return (await renderVideo(lesson, store, sounds, assets, out, { ...options, heard })).balance
    }
    case 'sound':
      return (await renderSound(lesson, store, sounds, out, 'wav', options)).balance
    default:
      await renderVoice(lesson, store, sounds, kind === 'voice-wav' ? 'wav' : 'flac', out, options)
      return null
  }
}
