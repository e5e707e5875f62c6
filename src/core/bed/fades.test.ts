import { newBed } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { planMix } from '@/core/mix/plan'
import { renderWhole } from '@/core/mix/renderer'
import { lessonOver, SONG, soundBank, TAKE } from '@/core/testing/lessons'
import { tones } from '@/core/testing/signals'
import { HOUSE_RATE, toDecibels } from '@/core/units'
import { fadeTrack } from './fades'
import { RIDE_RATE } from './ride'

const bed = (part: object) => [{ cue: { ...newBed('b', SONG, 's0'), ...part }, start: 2, end: 12 }]

test.each([
  ['straight', -6.02],
  ['smooth', -6.02],
] as const)('a %s fade lasts as long as it is set, and is half way down in its middle', (fadeShape, middle) => {
  const track = fadeTrack(bed({ fadeIn: 2, fadeOut: 4, fadeShape }), 15 * RIDE_RATE)
  const at = (time: number) => track[Math.round(time * RIDE_RATE)]!
  expect(at(2)).toBeLessThan(-90)
  expect(at(3)).toBeCloseTo(middle, 1)
  expect([at(4), at(6), at(8)]).toEqual([0, 0, 0])
  expect(at(10)).toBeCloseTo(middle, 1)
  expect(at(12)).toBeLessThan(-90)
})

test('a smooth fade begins and ends more gently than a straight one', () => {
  const at = (fadeShape: string, time: number) =>
    fadeTrack(bed({ fadeOut: 10, fadeShape }), 15 * RIDE_RATE)[Math.round(time * RIDE_RATE)]!
  expect(at('smooth', 4)).toBeGreaterThan(at('straight', 4))
  expect(at('smooth', 11)).toBeLessThan(at('straight', 11))
})

test('the music is heard to fade as it is set, whatever the ride does', async () => {
  const length = 20
  const bank = soundBank({
    [TAKE]: [new Float32Array(length * HOUSE_RATE)],
    [SONG]: [tones([[-12, length]], 440)],
  })
  const level = async (part: object) => {
    const lesson = lessonOver([0, length])
    lesson.bedCues = [{ ...newBed('b', SONG, 's0'), ...part }]
    const { plan } = planMix(lesson, layoutLesson(lesson), bank.analysisOf)
    const heard: number[] = []
    for await (const { tracks } of renderWhole({ ...plan, gain: 0 }, bank.source)) heard.push(...tracks.bed[0])
    const sound = Float32Array.from(heard)
    return (time: number) => {
      const part = sound.subarray(time * HOUSE_RATE, (time + 0.1) * HOUSE_RATE)
      return toDecibels(Math.sqrt(part.reduce((sum, value) => sum + value * value, 0) / part.length))
    }
  }
  const plain = await level({ fadeIn: 0, fadeOut: 0 })
  const faded = await level({ fadeIn: 3, fadeOut: 10, fadeShape: 'straight' })
  for (const [time, share] of [
    [1.45, 0.5],
    [5, 1],
    [12.45, 0.75],
    [17.45, 0.25],
  ] as const)
    expect(faded(time) - plain(time)).toBeCloseTo(toDecibels(share), 0)
  expect(faded(19.9)).toBeLessThan(plain(19.9) - 35)
})
