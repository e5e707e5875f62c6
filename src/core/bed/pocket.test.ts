import { createEnergyMeter } from '@/core/measure/energyMeter'
import { BAND_CENTRES } from '@/core/measure/bands'
import { integratedLoudness } from '@/core/measure/loudness'
import { speechIndex } from '@/core/measure/speechIndex'
import { tones } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { chooseDips, depthAt, pocketPower, POCKET_RUN_UP, takePocket, type PocketPlan } from './pocket'

const flat = (level: number) => new Float64Array(BAND_CENTRES.length).fill(level)
const at = (frequency: number, level: number, floor: number) =>
  flat(floor).map((value, band) => (Math.abs(Math.log2(BAND_CENTRES[band]! / frequency)) < 0.2 ? level : value))

test('the dips lie where this voice is heard above its own noise', () => {
  const low = chooseDips(at(1000, -20, -60), flat(-60), flat(-20), { depth: 6 })
  const high = chooseDips(at(1600, -20, -60), flat(-60), flat(-20), { depth: 6 })
  // Together they are as deep as asked for, at the middle of each.
  for (const dips of [low, high]) for (const { frequency } of dips) expect(depthAt(dips, frequency)).toBeCloseTo(6, 2)
  expect(low[0]!.frequency).toBeCloseTo(1000, -2)
  expect(high[1]!.frequency).toBeCloseTo(1585, -2)
  // Where nothing is heard of it, in the middle of what matters.
  expect(low[2]!.frequency).toBeCloseTo(3981, -2)
})

test('as deep as needed: not at all under a clear voice, deeper under a covered one', () => {
  const depths = [-50, -32, -20].map((bed) => {
    const dips = chooseDips(flat(-25), flat(-60), flat(bed), { depth: null })
    return dips.map(({ frequency }) => Math.round(depthAt(dips, frequency)))
  })
  expect(depths).toEqual([[], [8, 8, 8], [9, 9, 9]])
})

test('a tone in the middle of a dip is so much softer, one far from it is as loud as before', () => {
  const plan: PocketPlan = { dips: [{ frequency: 1250, q: 1, depth: 6 }], amount: new Float32Array(200).fill(1) }
  for (const [frequency, wanted] of [
    [1250, -6],
    [100, 0],
    [12_000, 0],
  ] as const) {
    const tone = tones([[-20, 2]], frequency)
    const dipped = takePocket(tone, plan, 0)
    const level = (sound: Float32Array) => {
      const meter = createEnergyMeter(HOUSE_RATE, 1)
      meter.push([sound])
      return integratedLoudness(meter.track())!
    }
    const change = level(dipped) - level(tone.subarray(POCKET_RUN_UP))
    expect(change).toBeCloseTo(wanted, 0)
    // What is computed without samples agrees with what the samples say.
    expect(10 * Math.log10(pocketPower(plan.dips, frequency, 1))).toBeCloseTo(change, 1)
  }
})

test('the same samples come out wherever a block begins', () => {
  const sound = tones([[-20, 1]], 1300).map((value, i) => value + 0.01 * Math.sin(i * 0.7))
  const amount = Float32Array.from({ length: 30 }, (_, i) => Math.abs(Math.sin(i)))
  const plan: PocketPlan = { dips: [{ frequency: 1250, q: 1, depth: 9 }], amount }
  const whole = takePocket(sound, plan, POCKET_RUN_UP)
  const later = takePocket(sound.subarray(9600), plan, 9600 + POCKET_RUN_UP)
  let most = 0
  for (let i = 0; i < later.length; i++) most = Math.max(most, Math.abs(later[i]! - whole[9600 + i]!))
  expect(most).toBeLessThan(1e-7)
})

describe('the speech index', () => {
  test('is 1 where the voice is clear in all bands, 0 where it is covered, a half in the middle', () => {
    expect(speechIndex(flat(-20), flat(-40))).toBeCloseTo(1, 2)
    expect(speechIndex(flat(-40), flat(-20))).toBe(0)
    expect(speechIndex(flat(-20), flat(-20))).toBeCloseTo(0.5, 2)
  })
})
