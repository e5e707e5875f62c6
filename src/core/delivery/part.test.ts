import { USUAL_FRAMING } from '@/core/lesson/framing'
import { layoutLesson } from '@/core/lesson/layout'
import { lessonOver } from '@/core/testing/lessons'
import { lessonFrames, planShots, type Shot } from '@/core/picture/shots'
import { captionsWithin, chaptersWithin, partBetween, shotsWithin, within } from './part'

test('a part covers the frames of its time, at least one, and none beyond the lesson', () => {
  const timeline = layoutLesson(lessonOver([0, 10]))
  expect(timeline.length).toBe(10)
  expect(partBetween(1, 2, timeline)).toEqual({ from: 30, to: 60, rate: 30 })
  expect(partBetween(9.99, 20, timeline)).toEqual({ from: 299, to: 300, rate: 30 })
  expect(partBetween(2, 2, timeline)).toEqual({ from: 60, to: 61, rate: 30 })
})

test('the parts of a lesson, one after the other, are the lesson', () => {
  const timeline = layoutLesson(lessonOver([0, 5.3, 10.8, 17]))
  const shots = planShots(timeline)
  const frames = lessonFrames(timeline)
  const middle = 200
  const parts = [
    { from: 0, to: middle, rate: 30 },
    { from: middle, to: frames, rate: 30 },
  ]
  const steps = parts.flatMap((part) =>
    shotsWithin(shots, part).flatMap(({ step, frames: count }) => Array<string>(count).fill(step)),
  )
  expect(steps).toEqual(shots.flatMap(({ step, frames: count }) => Array<string>(count).fill(step)))
})

test('a recording goes on where the part begins, at its own speed', () => {
  const recording = { kind: 'plays', media: 'm', framing: USUAL_FRAMING } as const
  const plays: Shot = { step: 's', start: 30, frames: 90, ...recording, from: 4, speed: 2 }
  expect(shotsWithin([plays], { from: 60, to: 100, rate: 30 })).toEqual([{ ...plays, start: 0, frames: 40, from: 6 }])
})

test('what sticks out of a part is cut, and told in the part’s own time', () => {
  const spans = [
    { start: 0, end: 1.5 },
    { start: 1.6, end: 2.4 },
    { start: 2.9, end: 5 },
    { start: 5, end: 6 },
  ]
  const part = { from: 30, to: 90, rate: 30 }
  expect(within(spans, part).map(({ start, end }) => [start, end].map((time) => Math.round(time * 10)))).toEqual([
    [0, 5],
    [6, 14],
    [19, 20],
  ])
  const captions = spans.map((span) => ({ ...span, step: 's', lines: ['word'], from: 0, to: 1, isCorrected: false }))
  // A tenth of a second of a caption can't be read.
  expect(captionsWithin(captions, part)).toHaveLength(2)
  // One that is as short by itself stands in every file alike, also where the last frame ends a little before the lesson.
  const short = { ...captions[0]!, start: 2.75, end: 3.02 }
  expect(captionsWithin([short], part)).toHaveLength(1)
})

test('a chapter that ends where a part begins, but for less than half a frame, is not in it', () => {
  const part = partBetween(2.002, 5, layoutLesson(lessonOver([0, 2.002, 5, 9])))
  const chapters = [
    { title: 'One', start: 0, end: 2.002 },
    { title: 'Two', start: 2.002, end: 4.995 },
    { title: 'Three', start: 4.995, end: 9 },
  ]
  expect(chaptersWithin(chapters, part).map(({ title, start }) => [title, start])).toEqual([['Two', 0]])
})
