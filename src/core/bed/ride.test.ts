import { energyOf, loudnessOf } from '@/core/measure/loudness'
import { applyGain, gainAt, rideBed, RIDE_RATE, type GainTrack } from './ride'

/** Level tracks made by hand: what the bed must do follows from them. */
const targets = { clearance: 16, swell: 6, pauseFrom: 3, slope: 9.3 }
type Part = readonly [seconds: number, level: number | null]

const track = (parts: readonly Part[]) =>
  Float32Array.from(
    parts.flatMap(([length, level]) =>
      Array<number>(Math.round(length * 100)).fill(level === null ? 0 : energyOf(level)),
    ),
  )
const speechOf = (parts: readonly Part[]) => {
  let at = 0
  return parts.flatMap(([length, level]) => {
    const start = at
    at += length
    return level === null ? [] : [{ start, end: at }]
  })
}
const ride = (voice: readonly Part[], bed: readonly Part[]) =>
  rideBed(track(voice), track(bed), speechOf(voice), targets)
const steepest = (gain: GainTrack) =>
  gain.reduce((max, value, i) => (i ? Math.max(max, Math.abs(value - gain[i - 1]!) * RIDE_RATE) : 0), 0)

test('a steady bed under a steady voice lies exactly the clearance below', () => {
  const gain = ride([[20, -20]], [[20, -14]])
  for (let t = 1; t < 19; t++) expect(-20 - (-14 + gainAt(gain, t))).toBeCloseTo(16, 0)
})

test('the bed swells in a long pause and is down before the voice sets in again', () => {
  const voice: Part[] = [
    [10, -20],
    [8, null],
    [10, -20],
  ]
  const gain = ride(voice, [[28, -14]])
  expect(Math.abs(-14 + gainAt(gain, 14) + 26)).toBeLessThanOrEqual(1.05)
  expect(-14 + gainAt(gain, 18)).toBeLessThan(-34.5)
  expect(-14 + gainAt(gain, 17.7)).toBeLessThan(-34)
})

test('a pause shorter than asked does not move the bed', () => {
  const gain = ride(
    [
      [10, -20],
      [2.5, null],
      [10, -20],
    ],
    [[22.5, -14]],
  )
  for (let t = 9; t < 14; t += 0.1) expect(gainAt(gain, t)).toBeCloseTo(-22, 0)
})

test('a bed with 20 dB between its sections stays within the corridor but for its own steps, and is never steep', () => {
  const bed: Part[] = [
    [15, -14],
    [15, -34],
    [15, -14],
  ]
  const gain = ride([[45, -20]], bed)
  expect(steepest(gain)).toBeLessThanOrEqual(12.5)
  const ridden = applyGain(track(bed), gain)
  for (const t of [2, 7, 12, 18, 22, 27, 33, 40]) {
    expect(Math.abs(-36 - loudnessOf(ridden[t * 100]!))).toBeLessThan(3)
  }
})

test('soft and loud sentences: the bed follows the voice', () => {
  const voice: Part[] = [
    [6, -16],
    [0.6, null],
    [6, -26],
    [0.6, null],
    [6, -16],
  ]
  const gain = ride(voice, [[19.2, -20]])
  // As near as turning for it is worth: less far off on the loud side.
  for (const [time, wanted] of [
    [3, -32],
    [9.6, -42],
  ] as const) {
    expect(-20 + gainAt(gain, time) - wanted).toBeLessThanOrEqual(1.15)
    expect(-20 + gainAt(gain, time) - wanted).toBeGreaterThanOrEqual(-1.65)
  }
  expect(steepest(gain)).toBeLessThanOrEqual(12.5)
})

test('no voice, no ride; a bed that starts with silence is not lifted beyond its bound', () => {
  expect([...ride([[5, null]], [[5, -20]])].every((value) => value === 0)).toBe(true)
  const gain = ride(
    [[20, -20]],
    [
      [10, null],
      [10, -20],
    ],
  )
  expect(Math.max(...gain)).toBeLessThanOrEqual(12)
  expect(Math.abs(-20 + gainAt(gain, 15) + 36)).toBeLessThanOrEqual(2.05)
})

test('what passes within a breath is let pass: the bed turns only for what lasts', () => {
  // Every third second the bed is 2 dB louder for a second: following it would be heard as pumping.
  const bed = Array.from({ length: 45 }, (_, i): Part => [1, i % 3 === 0 ? -18 : -20])
  const gain = ride([[45, -20]], bed)
  expect(turnsOf(gain.subarray(40, -40))).toBe(0)
})

const turnsOf = (gain: GainTrack): number => {
  let count = 0
  let last = 0
  gain.forEach((value, i) => {
    const move = i === 0 ? 0 : value - gain[i - 1]!
    if (Math.abs(move) < 1e-6) return
    if (last !== 0 && Math.sign(move) !== last) count++
    last = Math.sign(move)
  })
  return count
}
