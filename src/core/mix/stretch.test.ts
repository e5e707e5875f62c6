import { emptyLesson, newRecording, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { soundBank, TAKE } from '@/core/testing/lessons'
import { tones } from '@/core/testing/signals'
import { HOUSE_RATE, toDecibels } from '@/core/units'
import { planMix } from './plan'
import { renderWhole } from './renderer'
import { stretched } from './stretch'

// Globals are slow inside a test runner's sandbox; local names are not.
const { abs, max } = Math
const reading = (sound: Float32Array) => async (from: number, frames: number) => [sound.subarray(from, from + frames)]
const whole = async (sound: Float32Array, speed: number) =>
  (await stretched(reading(sound), 0, speed, 0, Math.round(sound.length / speed)))[0]!

/** Crossings upwards in a second. */
function pitch(sound: Float32Array): number {
  let crossings = 0
  for (let i = 1; i < sound.length; i++) if (sound[i - 1]! < 0 && sound[i]! >= 0) crossings++
  return (crossings * HOUSE_RATE) / sound.length
}
const level = (sound: Float32Array) => toDecibels(Math.sqrt(sound.reduce((sum, v) => sum + v * v, 0) / sound.length))

test.each([0.5, 0.8, 1.25, 1.5, 2.5])('at %d times its speed a tone keeps its pitch and its level', async (speed) => {
  for (const frequency of [110, 440, 3000]) {
    const middle = (await whole(tones([[-12, 3]], frequency), speed)).subarray(HOUSE_RATE / 10, -HOUSE_RATE / 10)
    expect(Math.abs(pitch(middle) / frequency - 1)).toBeLessThan(0.01)
    expect(Math.abs(level(middle) - -15.01)).toBeLessThan(0.3)
    // No joint is heard: nothing in it moves faster than the tone itself does.
    const steepest = 10 ** (-12 / 20) * 2 * Math.sin((Math.PI * frequency) / HOUSE_RATE)
    let fastest = 0
    for (let i = 1; i < middle.length; i++) fastest = max(fastest, abs(middle[i]! - middle[i - 1]!))
    expect(fastest).toBeLessThan(steepest * 1.1 + 1e-3)
  }
})

test.each([0.5, 1.5, 3])('at %d times its speed everything happens at its time', async (speed) => {
  const sound = tones([
    [-Infinity, 1],
    [-6, 0.5],
    [-Infinity, 1.2],
    [-6, 0.3],
    [-Infinity, 0.6],
  ])
  const out = await whole(sound, speed)
  const begins = [1, 2.7].map((at) => at / speed)
  for (const at of begins) {
    const from = Math.round((at - 0.1) * HOUSE_RATE)
    const heard = out.subarray(from, from + HOUSE_RATE / 5).findIndex((value) => Math.abs(value) > 0.1)
    expect(Math.abs(heard / HOUSE_RATE - 0.1)).toBeLessThan(0.025)
  }
})

test('the same samples come out however it is cut', async () => {
  const sound = tones([[-12, 2]], 313)
  const all = await whole(sound, 1.3)
  const [part] = await stretched(reading(sound), 0, 1.3, 31_007, 10_000)
  expect(part).toEqual(all.slice(31_007, 41_007))
})

test("a recording's own sound goes as fast as its picture, without holes, and keeps its pitch", async () => {
  const picture = { ...newRecording(TAKE, 9), gain: 0, speed: 1.5 }
  const lesson = {
    ...emptyLesson('Test'),
    steps: [{ ...newStep('s', 'One', picture), length: { kind: 'fixed' as const, length: 8 } }],
  }
  const { source, analysisOf } = soundBank({ [TAKE]: [tones([[-20, 9]], 440)] })
  const { plan } = planMix(lesson, layoutLesson(lesson), analysisOf)
  const heard: number[] = []
  for await (const { tracks } of renderWhole({ ...plan, gain: 0 }, source)) heard.push(...tracks.recordings[0])
  const sound = Float32Array.from(heard)
  expect(Math.abs(pitch(sound.subarray(0, 5.9 * HOUSE_RATE)) / 440 - 1)).toBeLessThan(0.01)
  for (let t = 0.1; t < 5.8; t += 0.1)
    expect(Math.abs(level(sound.subarray(t * HOUSE_RATE, (t + 0.1) * HOUSE_RATE)) - -23.01)).toBeLessThan(1.5)
  expect(level(sound.subarray(6.05 * HOUSE_RATE))).toBeLessThan(-90)
})
