import type { Lesson } from './document'
import { continueEdit, doEdit, doEdits, openHistory, rebase, redo, undo } from './history'
import { emptyLesson, newStep, newStill } from './newParts'

const lesson = { ...emptyLesson('Knots'), steps: [newStep('s0', 'Bowline', newStill('b'.repeat(64), 1))] }

test('what sets a thing to what it is already is no step of undo', () => {
  const begun = openHistory(lesson)
  const renamed = doEdit(begun, { name: 'renameStep', step: 's0', title: 'Clove hitch' })
  expect(renamed.past).toHaveLength(1)
  const again = { name: 'renameStep', step: 's0', title: 'Clove hitch' } as const
  expect(doEdit(renamed, again)).toBe(renamed)
  expect(doEdits(renamed, [again, { name: 'setPicture', step: 's0', picture: newStill('b'.repeat(64), 1) }])).toBe(
    renamed,
  )
  expect(undo(renamed).lesson).toBe(lesson)
})

test('what is dragged anew is a change of its own, also where it begins at the value it has', () => {
  const to = (clearance: number) => ({ name: 'setTarget', target: 'clearance', value: clearance }) as const
  let history = continueEdit(openHistory(lesson), to(20), true)
  history = continueEdit(history, to(21), false)
  history = continueEdit(history, to(21), true)
  history = continueEdit(history, to(25), false)
  expect(history.lesson.targets.clearance).toBe(25)
  expect(undo(history).lesson.targets.clearance).toBe(21)
  expect(undo(undo(history)).lesson).toBe(lesson)
})

test('what was done elsewhere is added to what can be undone only when one goes there, and stays when one does', () => {
  const titles = (count: number) => Array.from({ length: count }, (_, i) => `title ${i}`)
  const rename = (title: string) => ({ name: 'renameStep', step: 's0', title }) as const
  const changed = titles(300).reduce((now, title) => doEdit(now, rename(title)), openHistory(lesson))
  let added = 0
  const elsewhere = (title: string) => (one: Lesson) => {
    added++
    return { ...one, title }
  }
  let history = rebase(rebase(changed, elsewhere('once')), elsewhere('twice'))
  expect([added, history.lesson.title, history.past.length]).toEqual([2, 'twice', 300])
  for (let i = 0; i < 3; i++) history = undo(history)
  expect([added, history.lesson.title, history.lesson.steps[0]!.title]).toEqual([8, 'twice', 'title 296'])
  for (let i = 0; i < 3; i++) history = redo(history)
  // What was left by undoing has it already.
  expect([added, history.lesson.title, history.lesson.steps[0]!.title]).toEqual([8, 'twice', 'title 299'])
})

test('what can be undone ends where something that was done elsewhere can’t be added', () => {
  const changed = doEdit(openHistory(lesson), { name: 'renameStep', step: 's0', title: 'Clove hitch' })
  const onlyNow = (one: Lesson) => (one.steps[0]!.title === 'Bowline' ? null : { ...one, title: 'there' })
  const ended = undo(rebase(changed, onlyNow))
  expect([ended.lesson.title, ended.lesson.steps[0]!.title, ended.past]).toEqual(['there', 'Clove hitch', []])
})
