import fc from 'fast-check'
import type { Lesson, Picture } from '@/core/lesson/document'
import { emptyLesson, newRecording, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { newLayer } from '@/core/lesson/layers'
import { lessonFrames, planShots, samplesOfFrames, type Shot } from './shots'

const card: Picture = { kind: 'card', lines: ['x'] }
const film = (length: number): Picture => ({
  ...newRecording('a'.repeat(64), 1 + length),
  from: 1,
})
const lessonOf = (...steps: [Picture, number][]): Lesson => ({
  ...emptyLesson('x'),
  steps: steps.map(([picture, length], i) => ({
    ...newStep(`s${i}`, '', picture),
    length: { kind: 'fixed' as const, length },
  })),
})
const plan = (lesson: Lesson) => planShots(layoutLesson(lesson))

test('shots follow each other in whole frames', () => {
  expect(plan(lessonOf([card, 1], [card, 0.5], [card, 2]))).toMatchObject([
    { step: 's0', start: 0, frames: 30, kind: 'stands' },
    { step: 's1', start: 30, frames: 15, kind: 'stands' },
    { step: 's2', start: 45, frames: 60, kind: 'stands' },
  ])
})

test('a recording moves as long as it is, and is then held', () => {
  const [plays, stands] = plan(lessonOf([film(2), 3]))
  expect(plays).toMatchObject({ start: 0, frames: 60, kind: 'plays', from: 1, speed: 1 })
  // Its last picture, not the one after it.
  expect(stands).toMatchObject({ start: 60, frames: 30, kind: 'stands', stack: { sides: [{ at: 3 - 1 / 30 }] } })
  expect(plan(lessonOf([film(5), 3]))).toMatchObject([{ frames: 90, kind: 'plays' }])
})

test('whatever the lengths, no frame is lost or shown twice, no change is more than half a frame off', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0.05, max: 9, noNaN: true }), { minLength: 1, maxLength: 60 }), (lengths) => {
      const lesson = lessonOf(...lengths.map((length): [Picture, number] => [card, length]))
      const timeline = layoutLesson(lesson)
      const shots = planShots(timeline)
      let next = 0
      for (const shot of shots) {
        expect(shot.start).toBe(next)
        const span = timeline.steps.find(({ step }) => step.id === shot.step)!
        expect(Math.abs(shot.start / 30 - span.start)).toBeLessThanOrEqual(0.5 / 30 + 1e-9)
        next += shot.frames
      }
      expect(next).toBe(lessonFrames(timeline))
      expect(samplesOfFrames(next, 30) / 48000).toBeGreaterThanOrEqual(timeline.length - 1e-6)
    }),
  )
})

test('what lies over a picture is drawn frame by frame only while it comes and goes', () => {
  const lesson = lessonOf([card, 4])
  lesson.steps[0]!.layers = [newLayer('l', 'title')]
  expect(plan(lesson)).toMatchObject([
    { start: 0, frames: 9, kind: 'drawn' },
    { start: 9, frames: 111, kind: 'stands', stack: { sides: [{ layers: [{ share: 1 }] }] } },
  ])
})

test('pictures give way over their boundary, and nothing becomes longer', () => {
  const lesson: Lesson = { ...lessonOf([card, 2], [card, 2], [card, 0.4]), edge: { kind: 'dissolve', length: 0.6 } }
  lesson.steps[1]!.edge = { kind: 'push', length: 2 }
  const shots = plan(lesson)
  expect(shots.map(({ start, frames, kind }) => [start, frames, kind])).toEqual([
    [0, 51, 'stands'],
    [51, 9, 'drawn'],
    [60, 9, 'drawn'],
    [69, 45, 'stands'],
    // No longer than half of what is seen beside it.
    [114, 6, 'drawn'],
    [120, 6, 'drawn'],
    [126, 6, 'stands'],
  ])
  const shares = shots.flatMap((shot) =>
    shot.kind === 'drawn' ? shot.stacks.map(({ between }) => between!.share) : [],
  )
  expect(shares.slice(0, 18)).toEqual([...shares.slice(0, 18)].sort((a, b) => a - b))
  expect(shares[8]! + shares[9]!).toBeCloseTo(1)
})

test('a recording stands on its edge picture while the other one moves', () => {
  const lesson: Lesson = { ...lessonOf([film(3), 3], [film(3), 3]), edge: { kind: 'dissolve', length: 1 } }
  const drawn = plan(lesson).filter((shot) => shot.kind === 'drawn')
  const [before, after] = drawn as [Extract<Shot, { kind: 'drawn' }>, Extract<Shot, { kind: 'drawn' }>]
  expect(before.stacks.every(({ sides }) => sides[0].speed === 1 && sides[1]!.at === 1)).toBe(true)
  expect(after.stacks.every(({ sides }) => Math.abs(sides[0].at - 4) < 0.04 && sides[1]!.speed === 1)).toBe(true)
})

test('the lesson comes out of plain ground and goes into it', () => {
  const shots = plan({ ...lessonOf([card, 4]), opening: 0.5, closing: 1 })
  expect(shots.map(({ start, frames, kind }) => [start, frames, kind])).toEqual([
    [0, 15, 'drawn'],
    [15, 75, 'stands'],
    [90, 30, 'drawn'],
  ])
  const [opening, , closing] = shots.map((shot) => (shot.kind === 'drawn' ? shot.stacks.map(({ veil }) => veil) : []))
  expect(opening![0]).toBeGreaterThan(0.9)
  expect(closing!.at(-1)).toBeGreaterThan(0.9)
})
