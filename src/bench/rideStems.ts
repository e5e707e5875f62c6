import { layoutLesson } from '@/core/lesson/layout'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { lessonOver, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE } from '@/core/units'

/** A voice and a bed as they stand in a finished mix, and the bed before its gain. */
export interface Stems {
  voice: LoudnessTrack
  bed: LoudnessTrack
  bedUngained: LoudnessTrack
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
    bedUngained: createEnergyMeter(HOUSE_RATE, 2),
  }
  for await (const { tracks, bedUngained } of renderWhole(plan, bank.source)) {
    meters.voice.push(tracks.voice)
    meters.bed.push(tracks.bed)
    meters.bedUngained.push(bedUngained)
  }
  const [bed, bedUngained] = [meters.bed.track(), meters.bedUngained.track()]
  return { voice: meters.voice.track(), bed, bedUngained, speech: levels.speech }
}
