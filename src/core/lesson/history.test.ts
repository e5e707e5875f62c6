import { continueEdit, doEdit, doEdits, openHistory, undo } from './history'
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
