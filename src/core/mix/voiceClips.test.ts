import { layoutLesson } from '@/core/lesson/layout'
import type { Passage } from '@/core/lesson/document'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { integratedLoudness } from '@/core/measure/loudness'
import { lessonOver, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE, toFactor } from '@/core/units'
import { planMix } from './plan'
import { renderMix } from './renderer'

const SECOND = '7'.repeat(64)
const THIRD = '6'.repeat(64)
const room = (samples: Float32Array, level: number, seed: number) => {
  const hiss = noise(samples.length, seed)
  return samples.map((value, i) => value + hiss[i]! * toFactor(level))
}
const reading = (level: number, seed: number) =>
  room(
    speechLike(
      [
        [null, 1],
        [level, 3],
        [null, 1],
        [level, 3],
        [null, 1],
      ],
      seed,
    ),
    -60,
    seed + 50,
  )
const bank = soundBank({ [TAKE]: [reading(-10, 3)], [SECOND]: [reading(-24, 4)], [THIRD]: [reading(-40, 5)] })

async function voiceOf(passages: Passage[][]) {
  const base = lessonOver(passages.map((_, i) => i * 9).concat(passages.length * 9), false)
  const lesson = { ...base, steps: base.steps.map((step, i) => ({ ...step, passages: passages[i]! })) }
  const timeline = layoutLesson(lesson)
  const { plan } = planMix(lesson, timeline, bank.analysisOf)
  const { tracks } = await renderMix(plan, bank.source, 0, plan.length)
  return { voice: tracks.voice[0], timeline }
}
const passage = (media: string, from: number, to: number, pause = 0): Passage => ({
  id: `${media[0]}${from}`,
  media,
  from,
  to,
  pause,
})

test('takes of any level are equally loud in the lesson, within half a LU', async () => {
  const { voice, timeline } = await voiceOf([TAKE, SECOND, THIRD].map((media) => [passage(media, 0, 9)]))
  const loudness = timeline.steps.map(({ start, end }) => {
    const meter = createEnergyMeter(HOUSE_RATE, 1)
    meter.push([voice.slice(start * HOUSE_RATE, end * HOUSE_RATE)])
    return integratedLoudness(meter.track())!
  })
  expect(Math.max(...loudness) - Math.min(...loudness)).toBeLessThan(0.5)
})

const level = (samples: Float32Array, from: number, to: number) => {
  const part = samples.subarray(Math.round(from * HOUSE_RATE), Math.round(to * HOUSE_RATE))
  return 10 * Math.log10(part.reduce((sum, value) => sum + value * value, 0) / part.length + 1e-12)
}

test('two takes joined in a pause: the room goes on at its level, without a hole or a click', async () => {
  const { voice } = await voiceOf([[passage(TAKE, 0, 4.5), passage(TAKE, 0.4, 9)]])
  const usual = level(voice, 4.15, 4.4)
  for (let at = 4.4; at < 4.6; at += 0.01) expect(Math.abs(level(voice, at, at + 0.01) - usual)).toBeLessThan(2.5)
})

test('a pause put in is filled with the take’s own room, as long as it was typed', async () => {
  const { voice, timeline } = await voiceOf([[passage(TAKE, 0, 4.5), passage(TAKE, 4.5, 9, 3)]])
  expect(timeline.length).toBeCloseTo(12, 6)
  const usual = level(voice, 4.15, 4.4)
  for (let at = 4.4; at < 7.6; at += 0.05) expect(Math.abs(level(voice, at, at + 0.05) - usual)).toBeLessThan(2.5)
})
