import { layoutLesson } from '@/core/lesson/layout'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { lessonOver, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE } from '@/core/units'

/** A voice and a bed as they stand in a finished mix, and the bed as it was laid. */
export interface Stems {
  voice: LoudnessTrack
  bed: LoudnessTrack
  bedRaw: LoudnessTrack
  speech: SpeechSegment[]
}

export async function rideStems(voice: Float32Array, song: Float32Array, evenStrokes = false): Promise<Stems> {
  const bank = soundBank({ [TAKE]: [voice], [SONG]: [song, song] })
  const lesson = {
    ...lessonOver([0, voice.length / HOUSE_RATE]),
    pocket: { on: false, depth: 6, nearer: 0 },
    evenStrokes,
  }
  const { plan, levels } = planMix(lesson, layoutLesson(lesson), bank.analysisOf)
  const meters = {
    voice: createEnergyMeter(HOUSE_RATE, 2),
    bed: createEnergyMeter(HOUSE_RATE, 2),
    bedRaw: createEnergyMeter(HOUSE_RATE, 2),
  }
  for await (const { tracks, bedRaw } of renderWhole(plan, bank.source)) {
    meters.voice.push(tracks.voice)
    meters.bed.push(tracks.bed)
    meters.bedRaw.push(bedRaw)
  }
  const [bed, bedRaw] = [meters.bed.track(), meters.bedRaw.track()]
  return { voice: meters.voice.track(), bed, bedRaw, speech: levels.speech }
}
