import type { Hum } from '@/core/measure/hum'
import { analyse, speechLike } from '@/core/testing/lessons'
import { HOUSE_RATE } from '@/core/units'
import { adviseCleanUp } from './advice'
import type { CleanUpPart } from './settings'

/** Sentences of equal loudness with pauses between, as from a quiet room. */
const SENTENCES: [number | null, number][] = Array.from({ length: 8 }, (_, i): [number | null, number] =>
  i % 2 === 0 ? [null, 0.8] : [-12, 1.6],
)
const voice = speechLike(SENTENCES)
const added = (what: (t: number, i: number) => number) =>
  voice.map((sample, i) => Math.max(-1, Math.min(1, sample + what(i / HOUSE_RATE, i))))
let seed = 1
const noise = () => {
  seed = (seed * 16807) % 2147483647
  return (seed / 2147483647) * 2 - 1
}
const advised = (samples: Float32Array) => {
  const advice = adviseCleanUp(analyse([samples]))
  return (Object.keys(advice) as CleanUpPart[]).filter((part) => advice[part].advised)
}

test('a clean voice at an even level needs nothing for its level, its microphone or its room', () => {
  const found = advised(added(() => noise() * 0.00002))
  expect(found).not.toContain('noise')
  expect(found).not.toContain('rumble')
  expect(found).not.toContain('clipping')
  expect(found).not.toContain('levelling')
})

test('a room that is heard, and one that hisses', () => {
  const low = added((t) => 0.02 * Math.sin(2 * Math.PI * 220 * t) * (1 + 0.01 * noise()))
  expect(advised(low)).toContain('noise')
  expect(advised(low)).not.toContain('hiss')
  const white = advised(added(() => noise() * 0.02))
  expect(white).toContain('noise')
  expect(white).toContain('hiss')
})

test('hum is advised against where it is heard beside the voice', () => {
  const take = analyse([added((t) => 0.002 * Math.sin(2 * Math.PI * 220 * t))])
  const hiss = (hum: Hum | null) => adviseCleanUp(take, hum).hiss.advised
  const mains = (level: number) => ({ at: 50, multiples: [1, 2], level })
  expect(hiss(mains(-45))).toBe(true)
  expect(hiss(mains(-72))).toBe(false)
  expect(hiss(null)).toBe(false)
})

test('a lorry below the voice', () => {
  const lorry = adviseCleanUp(analyse([added((t) => 0.02 * Math.sin(2 * Math.PI * 63 * t))])).rumble
  const none = adviseCleanUp(analyse([added(() => noise() * 0.00002)])).rumble
  expect(lorry.advised).toBe(true)
  expect(lorry.measured!).toBeLessThan(none.measured! - 20)
})

test('sentences that differ by 10 LU are told to the LU', () => {
  const uneven = speechLike(
    SENTENCES.map(([level, length], i) => [level === null ? null : i % 4 === 1 ? -10 : -20, length]),
  )
  const { measured, advised: wanted } = adviseCleanUp(analyse([uneven])).levelling
  expect(wanted).toBe(true)
  expect(measured!).toBeGreaterThan(9)
  expect(measured!).toBeLessThan(11)
})

test('clipped peaks are counted; silence is advised nothing', () => {
  const loud = voice.map((sample) => Math.max(-0.9, Math.min(0.9, sample * 12)))
  expect(advised(loud)).toContain('clipping')
  expect(advised(new Float32Array(HOUSE_RATE * 2))).toEqual([])
})
