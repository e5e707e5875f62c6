import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { newTake } from '@/core/lesson/takes'
import type { TimedWord } from '@/core/messages/job'
import { TAKE } from '@/core/testing/lessons'
import { checkScripts } from './scripts'

const SCRIPT = 'Ease the bow line and let the tide work.'

function lesson(): Lesson {
  const step = { ...newStep('s', 'Bow line', { kind: 'card' as const, lines: ['x'] }), script: SCRIPT }
  const take = newTake('t', TAKE, step, { from: 0, to: 10 }, 'brought-in')
  step.passages = [{ id: 'p', media: TAKE, from: 0, to: 10, pause: 0 }]
  return { ...emptyLesson('Knots'), steps: [step], takes: [take] }
}

/** The first so many words are found, a second each. */
const wordsFound = (count: number): TimedWord[] =>
  [...SCRIPT.matchAll(/\S+/g)].slice(0, count).map(({ 0: text, index }, i) => ({
    text,
    from: index,
    to: index + text.length,
    sentence: 0,
    start: i,
    end: i + 0.8,
    confidence: 0.9,
  }))

const check = (told: Lesson, words: TimedWord[] | null) =>
  checkScripts(told, layoutLesson(told), { wordsOf: () => words, speechOf: () => [{ start: 0, end: 10 }] })

test('a step that says something else than its script is told, with how much was found', () => {
  expect(check(lesson(), wordsFound(9))).toEqual([])
  expect(check(lesson(), wordsFound(2))).toMatchObject([{ code: 'said-otherwise', stepId: 's' }])
  expect(check(lesson(), wordsFound(2))[0]!.text).toMatch(/only 2 of the 9 words of its script were found/)
  expect(check(lesson(), [])[0]!.text).toMatch(/nothing of its script was found/)
})

test('a take that breaks off before its script ends is told with the words that are missing', () => {
  expect(check(lesson(), wordsFound(6))).toEqual([])
  expect(check(lesson(), wordsFound(5))).toMatchObject([{ code: 'cut-short', stepId: 's' }])
  expect(check(lesson(), wordsFound(5))[0]!.text).toMatch(/the last 4 words .*"let the tide work\. …"/)
})

test('nothing is told before it was looked for, nor where the script has changed since', () => {
  expect(check(lesson(), null)).toEqual([])
  const changed = lesson()
  changed.steps[0]!.script = 'Now it says something that nobody has recorded so far.'
  expect(check(changed, [])).toEqual([])
})
