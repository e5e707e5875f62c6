import { createEnergyMeter, HOP } from '@/core/measure/energyMeter'
import { HOUSE_RATE, toFactor } from '@/core/units'
import { RIDE_RATE } from './ride'
import { evenStrokes } from './strokes'

const track = (level: (seconds: number) => number, length: number) => {
  const meter = createEnergyMeter(HOUSE_RATE, 1)
  const tone = Float32Array.from({ length: length * HOUSE_RATE }, (_, i) => {
    const t = i / HOUSE_RATE
    return toFactor(level(t)) * Math.sin(2 * Math.PI * 440 * t)
  })
  meter.push([tone])
  return meter.track()
}

const SPOKEN = [{ start: 2, end: 10 }]

test('half of what a stroke stands out is taken away, while somebody speaks, and at most 3.6 dB', () => {
  // Strokes of 100 ms, 6 dB over the rest, once in 1.5 s: their surroundings are .8 dB louder than the rest.
  const gain = evenStrokes(
    track((t) => (t % 1.5 >= 0.7 && t % 1.5 < 0.8 ? -20 : -26), 14),
    SPOKEN,
    2,
  )
  const at = (seconds: number) => gain[Math.round(seconds * RIDE_RATE)]!
  expect(at(5.25)).toBeCloseTo(-(6 - 10 * Math.log10((14 + 4) / 15)) / 2, 0)
  expect(at(5.9)).toBe(0)
  expect(at(13.45)).toBe(0)
  const loud = evenStrokes(
    track((t) => (t % 1.5 >= 0.7 && t % 1.5 < 0.8 ? -10 : -40), 14),
    SPOKEN,
    2,
  )
  expect(Math.min(...loud)).toBeCloseTo(-3.6, 5)
})

test('even music and silence are left alone', () => {
  for (const level of [-20, -Infinity]) {
    const even = track(() => level, 12)
    const gain = evenStrokes(even, [{ start: 2, end: 10 }], 2)
    expect(gain).toHaveLength(Math.ceil(even.length * HOP * RIDE_RATE) + 1)
    for (const value of gain) expect(Math.abs(value)).toBeLessThan(0.1)
  }
})
