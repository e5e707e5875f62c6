import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { scriptsFromCaptions } from './scriptsFromCaptions'

const card = (id: string) => newStep(id, id, { kind: 'card' as const, lines: ['x'] })
/** Two steps of four seconds. */
const timeline = layoutLesson({ ...emptyLesson('Knots'), steps: [card('a'), card('b')] })

test('captions are what the step under their middle says; what comes later is what the last one says', () => {
  const captions = [
    { start: 0, end: 2, text: 'Make a loop.' },
    { start: 3, end: 4.8, text: 'Pull it tight.' },
    { start: 3.5, end: 5, text: 'Now the other end.' },
    { start: 9, end: 10, text: 'Done.' },
  ]
  expect([...scriptsFromCaptions(timeline, captions)]).toEqual([
    ['a', 'Make a loop. Pull it tight.'],
    ['b', 'Now the other end. Done.'],
  ])
})

test('steps of which nothing is said are left as they are; a lesson without steps has nobody to say it', () => {
  const captions = [{ start: 5, end: 6, text: 'Only here.' }]
  expect([...scriptsFromCaptions(timeline, captions)]).toEqual([['b', 'Only here.']])
  expect([...scriptsFromCaptions({ steps: [] }, captions)]).toEqual([])
})
