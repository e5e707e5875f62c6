import { layoutLesson } from '@/core/lesson/layout'
import { applyEdit, type Edit } from '@/core/lesson/edits'
import { lessonOver } from '@/core/testing/lessons'
import { rowContents } from './rowContents'

const lesson = lessonOver([0, 2.8, 5.4, 8.2], false)
const contents = (of: typeof lesson, before = new Map()) => rowContents(of, layoutLesson(of), before)

test('a row is told from its own beginning', () => {
  const row = contents(lesson).get('s1')!
  expect(row.span.start).toBe(0)
  expect(row.passages[0]!.start).toBeLessThan(1)
})

test('an edit before it leaves a row the very object it was; the row that is edited is another', () => {
  const first = contents(lesson)
  const edit: Edit = { name: 'setTail', step: 's0', tail: 3.3 }
  const second = contents(applyEdit(lesson, edit), first as never)
  expect(second.get('s0')).not.toBe(first.get('s0'))
  expect(second.get('s1')).toBe(first.get('s1'))
  expect(second.get('s2')).toBe(first.get('s2'))
  const moved = contents(applyEdit(lesson, { name: 'renameStep', step: 's1', title: 'Other' }), first as never)
  expect(moved.get('s1')).not.toBe(first.get('s1'))
  expect(moved.get('s1')!.passages[0]!.start).toBe(first.get('s1')!.passages[0]!.start)
  expect(moved.get('s2')).toBe(first.get('s2'))
})
