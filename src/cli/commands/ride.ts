import { join } from 'node:path'
import { RIDE_RATE } from '@/core/bed/ride'
import { lessonSchema } from '@/core/lesson/document'
import { emptyLesson, newBed, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { UserError } from '@/core/userError'
import { STEMS, writeStems } from '@/media/delivery/stems'
import { importSoundFile, withStore } from '../workspace'

interface RideOptions {
  voice: string
  bed: string
  clearance: number
  swell: number
  outDir: string
  pocket?: boolean
  evenStrokes?: boolean
}

/** Lays a bed under a whole voice recording: a lesson of one step. */
export function ride(options: RideOptions) {
  return withStore(async (store) => {
    const voice = await importSoundFile(store, options.voice)
    const bed = await importSoundFile(store, options.bed)
    const length = voice.media.length!
    const step = newStep('step', 'Ride', { kind: 'card', lines: ['Ride'] })
    const draft = emptyLesson('Ride')
    const parsed = lessonSchema.safeParse({
      ...draft,
      steps: [
        {
          ...step,
          length: { kind: 'fixed', length },
          passages: [{ id: 'passage', media: voice.media.hash, from: 0, to: length, pause: 0 }],
        },
      ],
      bedCues: [newBed('bed', bed.media.hash, step.id)],
      targets: { ...draft.targets, clearance: options.clearance, swell: options.swell },
      pocket: { ...draft.pocket, on: options.pocket ?? false },
      evenStrokes: options.evenStrokes ?? false,
    })
    if (!parsed.success) throw new UserError('The clearance must be 3 to 40 LU, the swell -6 to 40 LU.')
    const lesson = parsed.data
    const analyses = new Map([voice, bed].map(({ media, analysis }) => [media.hash, analysis]))
    const planned = planMix(lesson, layoutLesson(lesson), (hash) => analyses.get(hash))
    const report = await writeStems(planned, store, {
      [join(options.outDir, 'voice.wav')]: STEMS.voice,
      [join(options.outDir, 'bed.wav')]: STEMS.bed,
      [join(options.outDir, 'bed-raw.wav')]: STEMS.bedRaw,
    })
    return {
      report,
      pocket: planned.plan.pocket?.dips ?? [],
      gain: { rate: RIDE_RATE, decibels: Array.from(planned.plan.gains.bed!, (value) => Number(value.toFixed(3))) },
    }
  })
}
