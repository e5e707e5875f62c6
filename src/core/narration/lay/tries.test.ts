import { newStep } from '@/core/lesson/newParts'
import { applyEdit } from '@/core/lesson/edits'
import { emptyLesson } from '@/core/lesson/newParts'
import { TAKE } from '@/core/testing/lessons'
import { triesHeard } from './tries'

const word = (text: string, start: number) => ({
  text,
  from: 0,
  to: 1,
  sentence: 0,
  start,
  end: start + 0.5,
  confidence: 1,
})
const step = {
  ...newStep('s', 's', { kind: 'card' as const, lines: ['x'] }),
  passages: [{ id: 'p', media: TAKE, from: 0, to: 12, pause: 0 }],
}
const found = {
  words: [word('One', 1), word('two.', 1.5), word('Three', 6), word('four.', 6.5)],
  skipped: [],
  extra: [
    { kind: 'retake' as const, start: 3, end: 4.2, sentence: 1 },
    { kind: 'ad-lib' as const, start: 8, end: 9 },
  ],
}

test('a try is left out from after the words before it to before the words after it; what was added stays', () => {
  const cuts = triesHeard(
    step,
    () => [found],
    () => 'later',
  )
  expect(cuts).toEqual([{ passage: 'p', from: 2.15, to: 5.75, newPassage: 'later' }])
  const lesson = { ...emptyLesson('x'), steps: [step] }
  const after = applyEdit(lesson, { name: 'cutWords', step: 's', cuts, script: '' })
  expect(after.steps[0]!.passages.map(({ from, to }) => [from, to])).toEqual([
    [0, 2.15],
    [5.75, 12],
  ])
  expect(
    triesHeard(
      after.steps[0]!,
      () => [found],
      () => 'x',
    ),
  ).toEqual([])
})
