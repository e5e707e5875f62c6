import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { layoutLesson } from './layout'
import { documentOf } from './telling'
import { readDocument, readLesson } from './upgrade'
import { upgradeFormat5 } from './upgradeFormat5'

/** A document of format 2 with something hung everywhere, and where the last program of that format laid it all. */
const { document, laid } = JSON.parse(readFileSync(join(import.meta.dirname, 'fixtures/format2.json'), 'utf8')) as {
  document: object
  laid: Record<string, unknown>
}
const lesson = readLesson(document)

test('a document of format 2 is laid as it was: every voice, picture, recording, sound and bed at the same moment', () => {
  const { length, steps, passages, pictures, beds, sounds, loose } = layoutLesson(lesson)
  expect({
    length,
    steps: steps.map(({ step, start, end, overrun }) => [step.id, start, end, overrun]),
    passages: passages.map(({ passage, start, end }) => [passage.id, start, end]),
    pictures: pictures.map(({ step, picture, start, end, motions, missed }) => {
      const shows = picture.kind === 'still' ? picture.page : picture.kind
      return { step: step.id, shows, start, end, motions, missed }
    }),
    beds: beds.map(({ cue, start, end }) => [cue.id, start, end]),
    sounds: sounds.map(({ cue, start, end }) => [cue.id, start, end]),
    loose: loose.filter(({ kind }) => kind === 'sound').map(({ id }) => id),
  }).toEqual(laid)
  // What format 2 left out without a word is told now.
  expect(loose.filter(({ kind }) => kind !== 'sound').map(({ kind, id }) => [kind, id])).toEqual([
    ['picture', 'm4'],
    ['pin', 'pin2'],
  ])
})

test('its gain points stay where they were, and its words are guessed until they are found', () => {
  expect(layoutLesson(lesson).nudges.map(({ nudge, at }) => [nudge.id, at])).toEqual([
    ['n1', layoutLesson(lesson).steps[1]!.start + 0.5],
    ['n2', layoutLesson(lesson).steps[1]!.start + 2],
  ])
  const mark = lesson.marks.find(({ place }) => place?.at === 3.2)!
  expect(mark).toMatchObject({ step: 's0', guessed: 'word', word: { side: 'before' } })
  expect(lesson.steps[0]!.script.slice(mark.word!.character)).toMatch(/^(turns|twice) /)
})

test('read again it is the same', () => {
  expect(readDocument(JSON.parse(JSON.stringify(documentOf(lesson))))).toEqual(documentOf(lesson))
})

test('captions of before format 6 look as they did, and nothing is corrected or told of sounds', () => {
  const older = {
    format: 5,
    steps: [],
    look: { ink: '#000000' },
    sounds: [{ id: 's' }],
    narrations: { en: { takes: [] } },
  }
  expect(upgradeFormat5(older)).toEqual({
    format: 6,
    steps: [],
    look: { ink: '#000000', captions: { size: 'usual', place: 'lower', ground: 'box', pace: 17 } },
    sounds: [{ id: 's', caption: '' }],
    narrations: { en: { takes: [], captionCorrections: [] } },
  })
})
