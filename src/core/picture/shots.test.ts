import fc from 'fast-check'
import { emptyLesson, newRecording, newStep, type Lesson, type Picture } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { lessonFrames, planShots, samplesOfFrames } from './shots'

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
    { step: 's0', start: 0, frames: 30, layers: [{ moving: 0 }] },
    { step: 's1', start: 30, frames: 15, edge: { kind: 'cut' } },
    { step: 's2', start: 45, frames: 60 },
  ])
})

test('a recording moves as long as it is, and is then held', () => {
  expect(plan(lessonOf([film(2), 3]))).toMatchObject([{ frames: 90, layers: [{ moving: 60 }] }])
  expect(plan(lessonOf([film(5), 3]))).toMatchObject([{ frames: 90, layers: [{ moving: 90 }] }])
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
      expect(samplesOfFrames(next) / 48000).toBeGreaterThanOrEqual(timeline.length - 1e-6)
    }),
  )
})
