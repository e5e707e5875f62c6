import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson } from '@/core/lesson/document'
import { lessonOver, musicLike, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { createPlanner, planMix } from './plan'

const voice = speechLike([
  [-12, 4],
  [null, 2],
  [-16, 4],
])
const bank = soundBank({ [TAKE]: [voice], [SONG]: [musicLike(8, -14)] })
const lesson = lessonOver([0, 5, 10])
const nearer: Lesson = { ...lesson, targets: { ...lesson.targets, clearance: 9 } }
const withLessVoice: Lesson = { ...lesson, steps: [lesson.steps[0]!, { ...lesson.steps[1]!, passages: [] }] }
const softer: Lesson = { ...lesson, tracks: { ...lesson.tracks, bed: { ...lesson.tracks.bed, gain: -6 } } }

const fresh = (one: Lesson) => planMix(one, layoutLesson(one), bank.analysisOf)

test('planned again and again, a mix is what it is planned once', () => {
  const plan = createPlanner(bank.analysisOf)
  for (const one of [lesson, nearer, withLessVoice, lesson, softer, nearer])
    expect(plan(one, layoutLesson(one))).toEqual(fresh(one))
})

test('what lies as it lay is kept', () => {
  const plan = createPlanner(bank.analysisOf)
  const before = plan(lesson, layoutLesson(lesson)).levels
  expect(plan(nearer, layoutLesson(nearer)).levels.bedRaw).toBe(before.bedRaw)
})

test('a sound whose analysis comes later is heard from then on', () => {
  const there = new Set([TAKE])
  const plan = createPlanner((media) => (there.has(media) ? bank.analysisOf(media) : undefined))
  expect(plan(lesson, layoutLesson(lesson)).levels.bedRaw.every((energy) => energy === 0)).toBe(true)
  there.add(SONG)
  expect(plan(lesson, layoutLesson(lesson))).toEqual(fresh(lesson))
})
