import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { newLayer, type Layer } from '@/core/lesson/layers'
import { checkOver } from './over'

const words = (part: Partial<Layer>): Layer => ({ ...newLayer('l', 'label'), text: 'Two bells', ...part }) as Layer
function lessonWith(layer: Layer | null, length = 5): Lesson {
  const steps = ['a', 'b'].map((id) => ({
    ...newStep(id, '', { kind: 'card' as const, lines: ['x'] }),
    length: { kind: 'fixed' as const, length },
  }))
  if (layer) steps[0]!.layers = [layer]
  return { ...emptyLesson('x'), steps }
}
const found = (lesson: Lesson) => checkOver(lesson, layoutLesson(lesson)).map(({ code }) => code)

test('a label as it is put in is good', () => {
  expect(found(lessonWith(words({})))).toEqual([])
  expect(found(lessonWith(newLayer('l', 'ring')))).toEqual([])
})

test('what is too small, sticks out, or goes too soon is told, each with what to do', () => {
  const area = { x: 0.4, y: 0.4, width: 0.1, height: 0.03 }
  expect(found(lessonWith(words({ area })))).toEqual(['small-words'])
  expect(found(lessonWith(words({ area: { x: 0.9, y: 0.4, width: 0.3, height: 0.1 } })))).toEqual(['outside'])
  expect(found(lessonWith(words({ text: 'Keep the red buoys to port when coming in' }), 2))).toEqual(['short-label'])
})

test('letters and ground need contrast, which is told once', () => {
  const look = { ...emptyLesson('x').look, ink: '#888888', ground: '#ffffff' }
  expect(found({ ...lessonWith(words({})), look })).toEqual(['low-contrast'])
  expect(found({ ...lessonWith(null), look })).toEqual([])
})

test('an edge over words is told, one in silence is not', () => {
  const lesson = { ...lessonWith(null), edge: { kind: 'dissolve' as const, length: 1 } }
  expect(found(lesson)).toEqual([])
  lesson.steps[0]!.passages = [{ id: 'p', media: 'a'.repeat(64), from: 0, to: 5, pause: 0 }]
  expect(found(lesson)).toEqual(['edge-over-words'])
  lesson.steps[0]!.passages[0]!.to = 4.4
  expect(found(lesson)).toEqual([])
})
