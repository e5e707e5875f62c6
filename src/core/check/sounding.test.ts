import type { Lesson, SoundCue } from '@/core/lesson/document'
import { newRecording } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { DECK, lessonOver, markAt, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { checkSounds } from './sounding'

const SECOND = '7'.repeat(64)
const voice = speechLike([
  [null, 0.5],
  [-10, 4],
  [null, 3],
  [-10, 4],
  [null, 0.5],
])
const second = speechLike([
  [null, 0.4],
  [-10, 1.4],
  [null, 0.4],
])
const bank = soundBank({ [TAKE]: [voice], [SECOND]: [second] })
const cue = (part: Partial<SoundCue>): SoundCue => ({
  id: 'c',
  media: SECOND,
  from: 0,
  to: 2.2,
  track: 'effect',
  anchor: { kind: 'step', step: 's0', offset: 4.8 },
  gain: 0,
  fadeIn: 0,
  fadeOut: 0,
  meant: false,
  caption: '',
  ...part,
})
const lessonWith = (...sounds: SoundCue[]): Lesson => ({ ...lessonOver([0, 12], false), sounds })
const found = (lesson: Lesson) =>
  checkSounds(lesson, layoutLesson(lesson), bank.analysisOf).map(({ code, at }) => [
    code,
    at && Math.round(at * 10) / 10,
  ])

test('a sound in a pause is no finding, over words it is, unless it is meant', () => {
  expect(found(lessonWith(cue({})))).toEqual([])
  const over = { anchor: { kind: 'step' as const, step: 's0', offset: 2 } }
  expect(found(lessonWith(cue(over)))).toEqual([['effect-over-words', 2]])
  expect(found(lessonWith(cue({ ...over, meant: true })))).toEqual([])
})

test('a second voice counts by its words, not by the silence around them', () => {
  // Its last word ends before the narration goes on, the file only after.
  const close = { track: 'voice' as const, anchor: { kind: 'step' as const, step: 's0', offset: 5.6 } }
  expect(found(lessonWith(cue(close)))).toEqual([])
  const late = { ...close, anchor: { kind: 'step' as const, step: 's0', offset: 6.6 } }
  expect(found(lessonWith(cue(late)))[0]![0]).toBe('two-voices')
})

test('what has come loose, a pin that is out of reach, and a further picture that flashes by are told', () => {
  expect(found(lessonWith(cue({ anchor: { kind: 'step', step: 'gone', offset: 0 } })))).toEqual([
    ['loose-sound', undefined],
  ])
  const lesson = lessonWith()
  lesson.steps[0]!.picture = {
    ...newRecording(DECK, 60),
    pins: [{ id: 'p', at: 50, mark: 'k' }],
  }
  lesson.marks = [markAt('k', 's0', TAKE, 2)]
  expect(found(lesson)).toEqual([['pin-missed', 0]])
  expect(found({ ...lesson, marks: [] })).toEqual([['loose-pin', 0]])
  const flashing = lessonWith()
  flashing.steps[0]!.more = [{ id: 'm', picture: { kind: 'card', lines: ['x'] }, mark: 'k' }]
  flashing.marks = [markAt('k', 's0', TAKE, 11.5)]
  expect(found(flashing)).toEqual([['flashing-picture', 11.5]])
  expect(found({ ...flashing, marks: [] })).toEqual([['loose-picture', 0]])
})
