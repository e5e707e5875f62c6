import { layoutLesson } from '@/core/lesson/layout'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { lessonOver, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE, type Decibels } from '@/core/units'

/** A voice and a bed as they stand in a finished mix, and what was done to the bed. */
export interface Stems {
  voice: LoudnessTrack
  bed: LoudnessTrack
  /** Of the finished bed against the bed as it was laid, every 100 ms; the last known where it is silent. */
  gain: Decibels[]
  speech: SpeechSegment[]
}

const CELL = HOUSE_RATE / 10

export async function rideStems(voice: Float32Array, song: Float32Array): Promise<Stems> {
  const bank = soundBank({ [TAKE]: [voice], [SONG]: [song, song] })
  const lesson = { ...lessonOver([0, voice.length / HOUSE_RATE]), pocket: { on: false, depth: 6 } }
  const { plan, levels } = planMix(lesson, layoutLesson(lesson), bank.analysisOf)
  const meters = { voice: createEnergyMeter(HOUSE_RATE, 2), bed: createEnergyMeter(HOUSE_RATE, 2) }
  const gain: Decibels[] = []
  for await (const { tracks, bedRaw } of renderWhole(plan, bank.source)) {
    meters.voice.push(tracks.voice)
    meters.bed.push(tracks.bed)
    for (let at = 0; at + CELL <= bedRaw[0].length; at += CELL) {
      const before = energy(bedRaw[0], at)
      const after = energy(tracks.bed[0], at)
      gain.push(before > 1e-10 ? 10 * Math.log10(after / before) : (gain.at(-1) ?? 0))
    }
  }
  return { voice: meters.voice.track(), bed: meters.bed.track(), gain, speech: levels.speech }
}

function energy(samples: Float32Array, at: number): number {
  let sum = 0
  for (let i = at; i < at + CELL; i++) sum += samples[i]! ** 2
  return sum
}
