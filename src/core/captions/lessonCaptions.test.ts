import type { Lesson, SoundCue } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { TAKE } from '@/core/testing/lessons'
import type { HeardWords } from '@/core/narration/words/stepWords'
import { lessonCaptions } from './lessonCaptions'
import { withCaptions } from './overPictures'

const WORDS = [
  ['Ease', 0],
  ['the', 0.5],
  ['line.', 0.8],
] as const
const heard: HeardWords = {
  wordsOf: () =>
    WORDS.map(([text, start]) => ({ text, from: 0, to: 1, sentence: 0, start, end: start + 0.3, confidence: 0.9 })),
  speechOf: () => [{ start: 0, end: 1.2 }],
}

/** Three words that are said from 4 s on, after a silence. */
function lessonWith(sound: Partial<SoundCue>): Lesson {
  const step = {
    ...newStep('s', 'Lines', { kind: 'card' as const, lines: ['x'] }),
    script: 'Ease the line.',
    leadIn: 4,
    passages: [{ id: 'p', media: TAKE, from: 0, to: 2, pause: 0 }],
  }
  const cue: SoundCue = {
    id: 'bell',
    media: 'b'.repeat(64),
    from: 0,
    to: 6,
    track: 'effect',
    anchor: { kind: 'step', step: 's', offset: 0.5 },
    gain: 0,
    fadeIn: 0,
    fadeOut: 0,
    meant: true,
    caption: 'a bell',
    ...sound,
  }
  return { ...emptyLesson('Knots'), steps: [step], sounds: [cue] }
}
const captions = (lesson: Lesson) =>
  lessonCaptions(lesson, layoutLesson(lesson), heard).map(({ start, lines }) => [start, ...lines])

test('an effect is told in brackets where it sounds, however long it sounds', () => {
  expect(captions(lessonWith({}))).toEqual([
    [0.5, '[a bell]'],
    [4, 'Ease the line.'],
  ])
})

test('a second voice is told by its words, and an effect that is not to be told is not', () => {
  expect(captions(lessonWith({ track: 'voice', to: 2, caption: 'Ready!' }))[0]).toEqual([0.5, 'Ready!'])
  expect(captions(lessonWith({ caption: ' ' }))).toEqual([[4, 'Ease the line.']])
})

test('a second voice that speaks while the narration does keeps its words together', () => {
  const sound = {
    track: 'voice' as const,
    to: 2,
    caption: 'Let go now!',
    anchor: { kind: 'step', step: 's', offset: 4.2 } as const,
  }
  expect(captions(lessonWith(sound))).toEqual([[4, 'Ease Let go now! the line.']])
})

test('a sound among the words stands before the next one', () => {
  const lesson = lessonWith({ anchor: { kind: 'step', step: 's', offset: 4.3 } })
  expect(captions(lesson)).toEqual([[4, 'Ease [a bell] the line.']])
})

test('over the pictures they are at the edge that the lesson says, and those that are taken away are not there', () => {
  const lesson = lessonWith({})
  const timeline = layoutLesson(lesson)
  const top = (place: 'lower' | 'upper') =>
    withCaptions(timeline, lessonCaptions(lesson, timeline, heard), { ...lesson.look.captions, place }).layers.map(
      ({ layer }) => layer.area.y,
    )
  expect(Math.max(...top('upper'))).toBeLessThan(0.1)
  expect(Math.min(...top('lower'))).toBeGreaterThan(0.7)
  const without = { ...lesson, captionCorrections: [{ words: 'Ease the line.', text: '' }] }
  expect(captions(without)).toEqual([[0.5, '[a bell]']])
})
