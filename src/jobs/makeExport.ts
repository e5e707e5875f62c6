import { OUTPUTS, type OutputName } from '@/core/delivery/outputs'
import type { Lesson } from '@/core/lesson/document'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { makeOutput } from '@/media/delivery/makeOutput'
import { assertCanBeMade, soundsOf } from '@/media/lessonMedia'
import type { RenderOptions } from '@/media/mixdown'
import { withMarksSettled } from '@/media/speech/settleLesson'
import { assetStore, mediaStore } from './places'

export interface ExportWork {
  name: OutputName
  lesson: Lesson
  /** The file to make. */
  out: string
}

/** Makes a finished file, and what was measured in it. Takes long, and may be done in a thread of its own. */
export async function makeExport(
  { name, lesson: asked, out }: ExportWork,
  options: RenderOptions,
): Promise<BalanceSheet | null> {
  const [store, assets] = [mediaStore(), assetStore()]
  await assertCanBeMade(asked, store)
  const lesson = await withMarksSettled(asked, store, assets, options)
  const sounds = await soundsOf(lesson, store, options)
  return makeOutput({ lesson, store, sounds, assets }, OUTPUTS[name], out, options)
}
