import { applyGain } from '@/core/bed/ride'
import { energyOf } from '@/core/measure/loudness'
import { rideMotion, turnsOf } from './rideMotion'

const bed = new Float32Array(6000).fill(energyOf(-20)) // a minute
const speech = [{ start: 0, end: 60 }]
const motion = (gainAt: (time: number) => number) =>
  rideMotion(
    bed,
    applyGain(
      bed,
      Float32Array.from({ length: 1201 }, (_, i) => gainAt(i / 20)),
    ),
    speech,
  )

test('a gain that stays, or only goes one way, does not turn', () => {
  expect(motion(() => -18)).toEqual({ turns: 0, bumps: 0 })
  expect(motion((t) => -t / 4)).toEqual({ turns: 0, bumps: 0 })
})

test('a slow way down and up turns, and does not pump', () => {
  const { turns, bumps } = motion((t) => 4 * Math.cos((2 * Math.PI * t) / 20))
  // Down at 0, up at 10, down at 20 …: the first only says where it goes.
  expect(turns).toBeCloseTo(5, 5)
  expect(bumps).toBe(0)
})

test('quick ones pump, but only while somebody speaks', () => {
  const gain = (t: number) => (t % 20 < 1 ? -3 * Math.sin(Math.PI * (t % 20)) : 0)
  expect(motion(gain).bumps).toBeGreaterThan(0)
  const played = applyGain(
    bed,
    Float32Array.from({ length: 1201 }, (_, i) => gain(i / 20)),
  )
  expect(rideMotion(bed, played, []).bumps).toBe(0)
})

test('where it turns is told', () => {
  expect(turnsOf([0, 1, 2, 3, 2, 1, 0, 1, 2], 1.5).map((at) => Math.round(10 * at))).toEqual([3, 6])
})
