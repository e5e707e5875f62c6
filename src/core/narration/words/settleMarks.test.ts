import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson, Mark } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { settleMarks } from './settleMarks'
import { stepWords } from './stepWords'

const OWN = 'a'.repeat(64)
const script = 'Read the height from the table.'
const said: [text: string, start: number][] = [
  ['Read', 1],
  ['the', 1.4],
  ['height', 1.6],
  ['from', 2.3],
  ['the', 2.6],
]

/** A step of which all but the last word was found in its take, and a mark of which something is guessed. */
function lessonWith(mark: Partial<Mark>): Lesson {
  const step = { ...newStep('s', 'x', { kind: 'card', lines: ['x'] }), script }
  const passages = [{ id: 'p', media: OWN, from: 0.5, to: 4, pause: 0 }]
  const own = { id: 'k', step: 's', word: null, place: { media: OWN, at: 3 }, guessed: null, ...mark }
  return { ...emptyLesson('x'), steps: [{ ...step, passages }], marks: [own] }
}

function wordsOf(lesson: Lesson) {
  let from = 0
  const found = said.map(([text, start]) => {
    const at = script.indexOf(text, from)
    from = at + text.length
    return { text, from: at, to: at + text.length, sentence: 0, start, end: start + 0.2, confidence: 0.9 }
  })
  const heard = { wordsOf: () => found, speechOf: () => [] }
  return stepWords(layoutLesson(lesson).passages, script, heard)
}
const settled = (mark: Partial<Mark>) => {
  const lesson = lessonWith(mark)
  return settleMarks(lesson, () => wordsOf(lesson))
}

test('a mark whose place was guessed goes where its word is said; after the word, where that ends', () => {
  const word = { character: 9, side: 'before' as const }
  expect(settled({ word, guessed: 'place' })).toMatchObject([{ place: { media: OWN, at: 1.6 }, guessed: null }])
  const after = { ...word, side: 'after' as const }
  expect(settled({ word: after, guessed: 'place' })[0]!.place!.at).toBeCloseTo(1.8, 9)
})

test('a word that nobody has found stays guessed, between its neighbours', () => {
  const [mark] = settled({ word: { character: 25, side: 'before' }, guessed: 'place' })
  expect(mark).toMatchObject({ guessed: 'place' })
  expect(mark!.place!.at).toBeGreaterThanOrEqual(2.8)
})

test('a mark that knows only its place learns its word', () => {
  expect(settled({ place: { media: OWN, at: 2.25 }, guessed: 'word' })).toMatchObject([
    { word: { character: 16, side: 'before' }, place: { at: 2.25 }, guessed: null },
  ])
})

test('what is known, or not found yet, is left as it is', () => {
  expect(settled({ word: { character: 9, side: 'before' } })).toEqual([])
  const waiting = lessonWith({ word: { character: 9, side: 'before' }, guessed: 'place' })
  expect(settleMarks(waiting, () => null)).toEqual([])
})
