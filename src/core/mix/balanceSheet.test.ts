import { HOP } from '@/core/measure/energyMeter'
import { stretchLoudness } from '@/core/measure/loudness'
import { noise } from '@/core/testing/signals'
import { clearanceReadings } from './balanceSheet'

const HOPS = 4000
const voice = noise(HOPS, 1).map((value) => value * value)
/** Loud, then without any sound, then soft. */
const bed = noise(HOPS, 2).map((value, hop) => value * value * (hop < 1500 ? 1 : hop < 2500 ? 0 : 1e-6))
const speech = [
  { start: 0.43, end: 9 },
  { start: 10.2, end: 24.6 },
  { start: 25.5, end: 39.9 },
]
const sentenceAt = (at: number) => speech.find(({ start, end }) => at >= start && at < end)!

test('a reading is voice less bed over three seconds inside its sentence, wherever the one before lay', () => {
  const readings = clearanceReadings(voice, bed, speech)
  expect(readings.length).toBeGreaterThan(250)
  for (const { at, clearance } of readings) {
    const { start, end } = sentenceAt(at)
    const [from, to] = [Math.max(start, at - 1.5), Math.min(end, at + 1.5)]
    expect(clearance).toBeCloseTo(stretchLoudness(voice, from, to) - stretchLoudness(bed, from, to), 5)
  }
})

test('where no bed sounds there is no reading; where music was to be heard, it is lost', () => {
  const isSilent = (at: number) => at > 1500 * HOP + 1.5 && at < 2500 * HOP - 1.5
  expect(clearanceReadings(voice, bed, speech).filter(({ at }) => isSilent(at))).toEqual([])
  const lost = clearanceReadings(voice, bed, speech, [{ start: 0, end: 40 }]).filter(({ at }) => isSilent(at))
  expect(lost.length).toBeGreaterThan(50)
  expect(lost.every(({ clearance }) => clearance === Infinity)).toBe(true)
})
