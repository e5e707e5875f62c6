import { TAKE } from '@/core/testing/lessons'
import type { Lesson } from './document'
import { emptyLesson, newStep } from './newParts'
import { applyEdit, type Edit } from './edits'
import { layCapture } from './layCapture'
import { layoutLesson } from './layout'
import type { MediaInfo } from '@/core/messages/media'
import { newTake } from './takes'

const FILM = '7'.repeat(64)
const info: MediaInfo = { hash: FILM, kind: 'recording', name: 'Recorded.webm', length: 12 } as MediaInfo
const marks = [{ step: 's', at: 0 }]

/** A step with a lead-in of 0.4 s, and a voice of which seconds 2 to 7 are heard. */
function spokenLesson(media = TAKE): Lesson {
  const step = { ...newStep('s', 'One', { kind: 'card', lines: ['One'] }), leadIn: 0.4, tail: 0.6 }
  const take = newTake('t', media, step, { from: 2, to: 7 }, 'recorded')
  return {
    ...emptyLesson('Tides'),
    steps: [{ ...step, passages: [{ id: 'p', media: TAKE, from: 2, to: 7, pause: 0 }] }],
    takes: [take],
  }
}

const laid = (lesson: Lesson, edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit), lesson)

test('the voice meets what was seen while it spoke', () => {
  // The voice begins three seconds into the picture: its second second is the picture's fifth.
  const lesson = spokenLesson()
  const after = laid(
    lesson,
    layCapture(lesson, { marks, voiceAt: 3 }, info, () => 'new'),
  )
  const { picture } = after.steps[0]!
  expect(picture).toMatchObject({ kind: 'recording', media: FILM, to: 12 })
  const firstWordInPicture = (picture as { from: number }).from + 0.4
  expect(firstWordInPicture).toBeCloseTo(3 + 2, 9)
  // What is left of the picture is shown to its end.
  expect(layoutLesson(after).length).toBeCloseTo(12 - 4.6, 9)
})

test.each([
  ['without a voice', spokenLesson(), null],
  ['with a voice that is not heard in its step', spokenLesson('9'.repeat(64)), 3],
])('%s it begins at its beginning', (_, lesson, voiceAt) => {
  const after = laid(
    lesson,
    layCapture(lesson, { marks, voiceAt }, info, () => 'new'),
  )
  expect(after.steps[0]!.picture).toMatchObject({ from: 0, to: 12 })
  expect(layoutLesson(after).length).toBe(12)
})

test('where its step is gone it becomes a step of its own', () => {
  const lesson = emptyLesson('Tides')
  const after = laid(
    lesson,
    layCapture(lesson, { marks, voiceAt: null }, info, () => 'new'),
  )
  expect(after.steps).toMatchObject([{ id: 'new', picture: { kind: 'recording', media: FILM } }])
  // Who has recorded it needs nobody's licence.
  expect(after.shelf).toMatchObject([{ media: FILM, licence: 'own recording' }])
})
