import { z } from 'zod'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { HOUSE_RATE } from '@/core/units'
import { loadLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { cleanVoices, loadAnalyses } from '@/media/lessonMedia'
import { toFlac } from '@/media/soundFile'
import { storeSource } from '@/media/store'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

/** The whole voice of a lesson as it stands in the mix, in lesson time: `?format=wav` or `flac`. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const format = z.enum(['wav', 'flac']).catch('wav').parse(new URL(request.url).searchParams.get('format'))
  const { lesson } = await loadLesson(id)
  const wav = voiceBytes(lesson)
  const stream = streamOf(format === 'wav' ? wav : toFlac(wav))
  return new Response(stream, { headers: downloadHeaders(`${lesson.title}, voice.${format}`, `audio/${format}`) })
})

async function* voiceBytes(saved: Awaited<ReturnType<typeof loadLesson>>['lesson']) {
  const store = mediaStore()
  const lesson = await cleanVoices(saved, store)
  const { plan } = planMix(lesson, layoutLesson(lesson), await loadAnalyses(lesson, store))
  const sounds = storeSource(store)
  try {
    yield writeWavHeader(2, HOUSE_RATE, plan.length)
    for await (const { tracks } of renderWhole(plan, sounds.source)) yield encodeSamples(tracks.voice)
  } finally {
    await sounds.close()
  }
}
