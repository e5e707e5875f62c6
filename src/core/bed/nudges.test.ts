import { layoutLesson } from '@/core/lesson/layout'
import { applyEdit } from '@/core/lesson/edits'
import { lessonOver } from '@/core/testing/lessons'
import { nudgeAt, nudgeTrack } from './nudges'
import { RIDE_RATE } from './ride'

const point = (id: string, step: string, offset: number, gain: number, shape: 'straight' | 'smooth' = 'straight') => ({
  id,
  anchor: { kind: 'step' as const, step, offset },
  gain,
  shape,
})
const lesson = {
  ...lessonOver([0, 5, 10]),
  nudges: [point('c', 's1', 1, 0), point('a', 's0', 1, 0), point('b', 's0', 3, -6)],
}
const points = layoutLesson(lesson).nudges

test('a single point holds its value, and the first and last of several hold theirs', () => {
  const [, low] = points
  expect([...new Set(nudgeTrack([low!], 10 * RIDE_RATE))]).toEqual([-6])
  expect(nudgeAt([low!], 9)).toBe(-6)
  const track = nudgeTrack(points.slice(1), 10 * RIDE_RATE)
  const at = (time: number) => track[time * RIDE_RATE]
  expect([at(0), at(2.95), at(3), at(4.5), at(6), at(9)]).toEqual([-6, -6, -6, -3, 0, 0])
  expect([nudgeAt(points.slice(1), 1), nudgeAt([], 1)]).toEqual([-6, 0])
})

test('the points make a line over lesson time', () => {
  expect(points.map(({ at }) => at)).toEqual([1, 3, 6])
  const track = nudgeTrack(points, 10 * RIDE_RATE)
  const at = (time: number) => track[time * RIDE_RATE]
  expect([at(0.5), at(2), at(3), at(4.5), at(7)]).toEqual([0, -3, -6, -3, 0])
  expect(nudgeAt(points, 2)).toBeCloseTo(-3, 9)
})

test('a smooth line begins and ends level', () => {
  const smooth = [
    { nudge: point('a', 's0', 0, 0, 'smooth'), at: 0 },
    { nudge: point('b', 's0', 4, -8), at: 4 },
  ]
  const track = nudgeTrack(smooth, 5 * RIDE_RATE)
  expect(track[1]).toBeGreaterThan(-0.05)
  expect(track[2 * RIDE_RATE]).toBeCloseTo(-4, 6)
})

test('the points go with their steps', () => {
  const later = applyEdit(lesson, { name: 'setLeadIn', step: 's0', leadIn: 2 })
  expect(layoutLesson(later).nudges.map(({ at }) => at)).toEqual([1, 3, 8])
})
