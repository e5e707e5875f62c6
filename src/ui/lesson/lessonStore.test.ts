import type { MediaInfo } from '@/core/messages/media'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { lessonOver, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import {
  breakAtCaret,
  caretTime,
  copySelected,
  cutSelected,
  extendCaret,
  moveByStep,
  moveCaret,
  selectedWords,
  wordsOfStep,
} from '../words/caret'
import { isJustBroken } from '../words/justBroken'
import { createLessonStore, timelineOf } from './lessonStore'

/** What a page does to its lesson, without a page. */

const voice = speechLike([
  [null, 0.5],
  [-10, 2],
  [null, 0.6],
  [-12, 2],
  [null, 0.6],
  [-10, 2],
  [null, 0.5],
])
const bank = soundBank({ [TAKE]: [voice] })

function open() {
  const refusals: string[] = []
  const store = createLessonStore(lessonOver([0, 5.4, 8.2], false), [], (sentence) => refusals.push(sentence))
  store.setState({ analyses: new Map([[TAKE, bank.analysisOf(TAKE)!]]) })
  return { store, refusals, state: store.getState }
}

test('the first step is chosen when a lesson is opened, none in an empty one', () => {
  expect(open().state()).toMatchObject({ selected: ['s0'], caret: { step: 's0', word: 0 } })
  expect(createLessonStore(emptyLesson('x'), [], () => undefined).getState()).toMatchObject({
    selected: [],
    caret: null,
  })
})

test('an edit that can not be done says why and changes nothing', () => {
  const { state, refusals } = open()
  const before = state().history
  expect(state().edit({ name: 'joinStep', step: 's0' })).toBe(false)
  expect(state().history).toBe(before)
  expect(refusals).toEqual([expect.stringContaining('nothing before it')])
})

test('of several edits at once none is done when one is refused', () => {
  const { state } = open()
  const before = state().history.lesson
  const step = newStep('n', 'New', { kind: 'card', lines: ['x'] })
  expect(
    state().edit({ name: 'addSteps', before: null, steps: [step] }, { name: 'deleteSteps', steps: ['gone'] }),
  ).toBe(false)
  expect(state().history.lesson).toBe(before)
})

test('several edits at once are one step of undo, called by what was wanted', () => {
  const { state } = open()
  const before = state().history.lesson
  const step = newStep('n', 'New', { kind: 'card', lines: ['x'] })
  state().edit({ name: 'renameLesson', title: 'Other' }, { name: 'addSteps', before: null, steps: [step] })
  expect(state().history.past.map(({ name }) => name)).toEqual(['renameLesson'])
  state().undo()
  expect(state().history.lesson).toBe(before)
})

test('a slider that is dragged is one step of undo, two drags are two', () => {
  const { state } = open()
  const { lesson } = state().history
  for (const value of [17, 18, 19])
    state().continueEdit({ name: 'setTarget', target: 'clearance', value }, value === 17)
  for (const value of [22, 24]) state().continueEdit({ name: 'setTarget', target: 'clearance', value }, value === 22)
  expect(state().history.lesson.targets.clearance).toBe(24)
  state().undo()
  expect(state().history.lesson.targets.clearance).toBe(19)
  state().undo()
  expect(state().history.lesson).toEqual(lesson)
  state().redo()
  state().redo()
  expect(state().history.lesson.targets.clearance).toBe(24)
})

test('the caret goes phrase by phrase, across steps, and stops at both ends', () => {
  const { store, state } = open()
  expect([wordsOfStep(state(), 's0').length, wordsOfStep(state(), 's1').length]).toEqual([2, 1])
  const places: unknown[] = []
  for (let caret = state().caret; caret; caret = moveCaret(state(), 1)) {
    store.setState({ caret })
    places.push([caret.step, caret.word])
  }
  expect(places).toEqual([
    ['s0', 0],
    ['s0', 1],
    ['s1', 0],
  ])
  store.setState({ caret: { step: 's1', word: 0 } })
  expect(moveCaret(state(), -1)).toEqual({ step: 's0', word: 1 })
  expect(moveByStep(state(), -1)).toEqual({ step: 's0', word: 0 })
  expect(moveByStep(state(), 1)).toBeNull()
})

test('a selection of words goes on into the next step, shrinks again, and is cut and copied as one', () => {
  const { store, state } = open()
  store.setState({ caret: { step: 's0', word: 1 } })
  const extend = (by: 1 | -1) => store.setState({ caret: extendCaret(state(), by) })
  const chosen = () => selectedWords(state()).map(({ step, from, to }) => [step.id, from, to])
  extend(1)
  expect(chosen()).toEqual([['s0', 1, 2]])
  extend(1)
  expect(chosen()).toEqual([
    ['s0', 1, 2],
    ['s1', 0, 1],
  ])
  expect(copySelected(state())!.pieces.map(({ media }) => media)).toEqual([TAKE, TAKE])
  const before = state().history.lesson
  state().edit(...cutSelected(state()))
  expect([wordsOfStep(state(), 's0').length, wordsOfStep(state(), 's1').length]).toEqual([1, 0])
  state().undo()
  expect(state().history.lesson).toEqual(before)
  extend(-1)
  extend(-1)
  extend(-1)
  expect(chosen()).toEqual([['s0', 0, 1]])
})

test('breaking at the caret puts the next phrase on the next picture, and time stands there', () => {
  const { store, state } = open()
  expect(breakAtCaret(state())).toMatch('begins here already')
  store.setState({ caret: { step: 's0', word: 1 } })
  expect(caretTime(state(), { step: 's0', word: 1 })).toBeCloseTo(3.1, 1)
  const edit = breakAtCaret(state())
  expect(edit).toMatchObject({ name: 'breakStep', step: 's0', passage: 'p0' })
  if (typeof edit === 'string') throw new Error(edit)
  expect(state().edit(edit)).toBe(true)
  const { steps } = timelineOf(state().history.lesson)
  expect(steps[0]!.step.passages[0]!.to).toBeCloseTo(2.85, 1)
  expect(wordsOfStep(state(), 's0')).toHaveLength(1)
  expect(wordsOfStep(state(), 's1')).toHaveLength(2)
})

test('a step knows that its first words were just put there, until something else is done', () => {
  const { store, state } = open()
  store.setState({ caret: { step: 's0', word: 1 } })
  const edit = breakAtCaret(state())
  if (typeof edit === 'string') throw new Error(edit)
  state().edit(edit)
  expect(['s0', 's1'].map((step) => isJustBroken(state(), step))).toEqual([false, true])
  state().edit({ name: 'renameStep', step: 's1', title: 'Next' })
  expect(isJustBroken(state(), 's1')).toBe(false)
  state().undo()
  expect(isJustBroken(state(), 's1')).toBe(true)
})

test('what an edit does not touch stays the same object, so that only changed rows are drawn', () => {
  const { state } = open()
  const before = timelineOf(state().history.lesson)
  state().edit({ name: 'setTail', step: 's1', tail: 1 })
  const after = timelineOf(state().history.lesson)
  expect(after.steps[0]).toBe(before.steps[0])
  expect(after.steps[1]).not.toBe(before.steps[1])
  expect(after.passages[0]).toBe(before.passages[0])
  state().edit({ name: 'setTail', step: 's0', tail: 1 })
  const later = timelineOf(state().history.lesson)
  expect(later.steps[1]).not.toBe(after.steps[1])
  expect(later.passages[1]!.start).toBeCloseTo(after.passages[1]!.start + 1, 9)
})

test('the timeline of one state of a lesson is computed once', () => {
  const { state } = open()
  const { lesson } = state().history
  expect(timelineOf(lesson)).toBe(timelineOf(lesson))
  state().edit({ name: 'setTail', step: 's0', tail: 1 })
  expect(timelineOf(state().history.lesson).length).toBeCloseTo(timelineOf(lesson).length + 1, 9)
})

test('undo and redo go back to caret and selection, too', () => {
  const { state } = open()
  state().select(['s0', 's1'], { step: 's1', word: 1 })
  const card = newStep('new', 'New card', { kind: 'card', lines: ['New card'] })
  state().edit({ name: 'addSteps', before: null, steps: [card] })
  state().select(['new'], { step: 'new', word: 0 })
  state().edit({ name: 'renameStep', step: 'new', title: 'Named' })
  state().select(['s0'], { step: 's0', word: 0 })
  state().undo()
  expect(state()).toMatchObject({ selected: ['new'], caret: { step: 'new', word: 0 } })
  state().undo()
  expect(state()).toMatchObject({ selected: ['s0', 's1'], caret: { step: 's1', word: 1 } })
  state().redo()
  expect(state()).toMatchObject({ selected: ['new'], caret: { step: 'new', word: 0 } })
  state().redo()
  expect(state()).toMatchObject({ selected: ['s0'], caret: { step: 's0', word: 0 } })
})

test('after an edit caret and selection stand where there is a step', () => {
  const { state } = open()
  state().select(['s0'], { step: 's0', word: 1 })
  state().edit({ name: 'deleteSteps', steps: ['s0'] })
  expect(state()).toMatchObject({ selected: ['s1'], caret: { step: 's1', word: 0 } })
})

test('a text that is typed is one step of undo; the next text is another', () => {
  const { state } = open()
  const type = (script: string, isFirst: boolean) =>
    state().continueEdit({ name: 'setScript', step: 's0', script }, isFirst)
  const before = state().history.lesson
  ;['H', 'He', 'Heave', 'Heave to'].forEach((text, i) => type(text, i === 0))
  expect(state().history.past).toHaveLength(1)
  type('Heave to now', true)
  expect(state().history.past).toHaveLength(2)
  state().undo()
  expect(state().history.lesson.steps[0]!.script).toBe('Heave to')
  state().undo()
  expect(state().history.lesson).toEqual(before)
})

test('a part beyond its file is brought into it by whatever sets it', () => {
  const { store, state } = open()
  const info = { hash: TAKE, length: 8.2 } as MediaInfo
  store.getState().addMedia([info])
  state().edit({ name: 'trimPassage', passage: 'p0', from: 0, to: 500 })
  expect(state().history.lesson.steps[0]!.passages[0]!.to).toBe(8.2)
})
