import { applyEdit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import { lessonOver } from '@/core/testing/lessons'
import { nudgeAt } from './nudges'
import { plateau } from './plateau'

const lesson = lessonOver([0, 20, 40])
let serial = 0
const newId = () => `n${++serial}`
const withOne = (before: typeof lesson, from: number, to: number, gain: number) =>
  plateau(layoutLesson(before), { from, to }, gain, newId).edits.reduce((after, edit) => applyEdit(after, edit), before)
const lineOf = (of: typeof lesson) => {
  const { nudges } = layoutLesson(of)
  return [0, 9, 10, 15, 21, 22, 40].map((time) => nudgeAt(nudges, time))
}

test('the line is at its level between its ends, and as before outside of the fades', () => {
  expect(lineOf(withOne(lesson, 10, 21, -6))).toEqual([0, 0, -6, -6, -6, 0, 0])
})

test('another one on the same place takes its place: they do not add up, and no point of it is left', () => {
  const twice = withOne(withOne(lesson, 10, 21, -6), 10, 21, 4)
  expect(lineOf(twice)).toEqual([0, 0, 4, 4, 4, 0, 0])
  expect(twice.nudges).toHaveLength(4)
})

test('one inside of another begins and ends at the level of that one', () => {
  const inside = withOne(withOne(lesson, 5, 30, -6), 10, 21, -60)
  expect(lineOf(inside)).toEqual([0, -6, -60, -60, -60, -6, 0])
})

test('at the ends of the lesson it stays within it', () => {
  const { nudges, length } = layoutLesson(withOne(withOne(lesson, -1, 3, -6), 38, 42, -6))
  expect(nudges.every(({ at }) => at >= 0 && at <= length)).toBe(true)
  expect([nudgeAt(nudges, 2), nudgeAt(nudges, 20), nudgeAt(nudges, length)].map((level) => Math.round(level))).toEqual([
    -6, 0, 0,
  ])
})
