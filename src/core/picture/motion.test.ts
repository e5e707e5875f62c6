import type { RecordingPicture } from '@/core/lesson/document'
import { newRecording } from '@/core/lesson/newParts'
import { keptParts, motionAt, planMotion, speedOf, type Motion } from './motion'

const media = 'a'.repeat(64)
const film = (part: Partial<RecordingPicture> = {}): RecordingPicture => ({ ...newRecording(media, 10), ...part })
/** In these tests a mark is called by the second at which it is said. */
const timeOf = (mark: string) => (mark === 'unsaid' ? null : Number(mark))
const plan = (picture: RecordingPicture, start: number, end: number, voiceEnd = end) =>
  planMotion(picture, start, end, voiceEnd, timeOf)
const pin = (at: number, mark: number | 'unsaid') => ({ id: `${at}`, at, mark: `${mark}` })

function expectGapless(motions: Motion[], start: number, end: number): void {
  expect(motions[0]!.start).toBe(start)
  expect(motions.at(-1)!.end).toBeCloseTo(end, 9)
  motions.slice(1).forEach((motion, i) => expect(motion.start).toBeCloseTo(motions[i]!.end, 9))
}

test('a recording plays at its own speed and is then held on its last picture', () => {
  const { motions } = plan(film(), 5, 20)
  expect(motions).toEqual([
    { start: 5, end: 15, from: 0, to: 10 },
    { start: 15, end: 20, from: 10, to: 10 },
  ])
  expectGapless(motions, 5, 20)
})

test('it ends with its step, wherever it has come', () => {
  expect(plan(film(), 5, 8).motions).toEqual([{ start: 5, end: 8, from: 0, to: 3 }])
})

test('fitted, it lasts as long as the words; but not at any speed', () => {
  const [fitted] = plan(film({ speed: null }), 0, 6, 5).motions
  expect(speedOf(fitted!)).toBeCloseTo(2, 9)
  expect(speedOf(plan(film({ speed: null }), 0, 1).motions[0]!)).toBeCloseTo(4, 9)
})

test('a pin brings its moment to its word; the speed on both sides follows', () => {
  const { motions, missed } = plan(film({ pins: [pin(6, 4)], speed: null }), 0, 12)
  expectGapless(motions, 0, 12)
  const at = (time: number) => {
    const motion = motionAt(motions, time)!
    return motion.from + (time - motion.start) * speedOf(motion)
  }
  expect(at(4)).toBeCloseTo(6, 6)
  expect(speedOf(motions[0]!)).toBeCloseTo(1.5, 9)
  expect(missed).toEqual([])
})

test('a pin that would need a crawl waits on its picture; one that would need a leap is told', () => {
  const late = plan(film({ pins: [pin(1, 10)] }), 0, 12).motions
  expect(late[0]).toEqual({ start: 0, end: 2.5, from: 0, to: 1 })
  expect(late[1]).toEqual({ start: 2.5, end: 10, from: 1, to: 1 })
  const soon = plan(film({ pins: [pin(9, 1)] }), 0, 4)
  expect(soon.missed).toEqual(['9'])
  expect(motionAt(soon.motions, 1)!.from).toBeCloseTo(9, 9)
})

test('a pin whose mark is not said while it is seen is told; one at its very beginning is where it begins', () => {
  const { unsaid, motions } = plan(film({ pins: [pin(2, 'unsaid'), pin(3, 20), pin(4, 5)] }), 5, 9)
  expect(unsaid).toEqual(['2', '3'])
  expect(motions[0]).toMatchObject({ start: 5, from: 4 })
})

test('what is cut out is not seen, and what follows comes sooner', () => {
  const cut = film({ cuts: [{ from: 2, to: 5 }] })
  expect(keptParts(cut)).toEqual([
    { from: 0, to: 2 },
    { from: 5, to: 10 },
  ])
  const { motions } = plan(cut, 0, 9)
  expect(motions).toEqual([
    { start: 0, end: 2, from: 0, to: 2 },
    { start: 2, end: 7, from: 5, to: 10 },
    { start: 7, end: 9, from: 10, to: 10 },
  ])
})
