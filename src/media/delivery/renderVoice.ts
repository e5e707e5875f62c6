import { rename, rm } from 'node:fs/promises'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { sounding } from '@/core/lesson/sounding'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { HOUSE_RATE } from '@/core/units'
import { bytesOf, interleave } from '../ffmpeg'
import type { LessonSounds } from '../lessonMedia'
import type { RenderOptions } from '../mixdown'
import { runProgram, writeTo } from '../process'
import { storeSource, type MediaStore } from '../store/store'

const CODECS = { wav: ['-c:a', 'pcm_s24le'], flac: ['-c:a', 'flac', '-sample_fmt', 's32'] }

/** Makes the voice of all steps in lesson time, as it stands in the mix, 24 bit. */
export async function renderVoice(
  lesson: Lesson,
  store: MediaStore,
  sounds: LessonSounds,
  format: keyof typeof CODECS,
  out: string,
  { signal, onProgress }: RenderOptions = {},
): Promise<void> {
  const { soundOf, analysisOf } = sounds
  const { plan } = planMix(lesson, sounding(layoutLesson(lesson), soundOf), analysisOf)
  const samples = storeSource(store)
  const draft = `${out}.draft.${format}`
  const input = ['-v', 'error', '-y', '-f', 'f32le', '-ar', String(HOUSE_RATE), '-ac', '2', '-i', 'pipe:0']
  try {
    await runProgram('ffmpeg', [...input, ...CODECS[format], draft], {
      limit: 6 * 3600,
      signal,
      async feed(pipe) {
        let done = 0
        for await (const { tracks } of renderWhole(plan, samples.source)) {
          signal?.throwIfAborted()
          await writeTo(pipe, bytesOf(interleave(tracks.voice)))
          done += tracks.voice[0].length
          onProgress?.(done / plan.length)
        }
      },
    })
    await rename(draft, out)
  } finally {
    await samples.close()
    await rm(draft, { force: true })
  }
}
