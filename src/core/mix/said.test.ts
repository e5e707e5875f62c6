import { layoutLesson } from '@/core/lesson/layout'
import type { HeardWords } from '@/core/narration/words/stepWords'
import { lessonOver } from '@/core/testing/lessons'
import { saidIn } from './said'

const timeline = layoutLesson(lessonOver([0, 6, 12]))
const [first, second] = timeline.passages
const word = (start: number, end: number) => ({ text: 'word', from: 0, to: 4, start, end, confidence: 1, sentence: 0 })
const heard = (of: Record<string, ReturnType<typeof word>[]>): HeardWords => ({
  wordsOf: ({ passage }) => of[passage.id] ?? null,
  speechOf: () => [],
})
const found = [
  { start: first!.start + 1, end: first!.start + 3 },
  { start: first!.end - 1, end: second!.start + 2 },
]

test('without words it is what was found by the level', () => {
  expect(saidIn(timeline, heard({}), found)).toEqual(found)
})

test('words take the place of what was found in their passage, at their time in the lesson, and of nothing else', () => {
  const said = saidIn(timeline, heard({ [first!.passage.id]: [word(0.5, 0.9), word(0.9, 1.4), word(2, 2.5)] }), found)
  const at = (time: number) => first!.start + time
  const expected = [
    { start: at(0.5), end: at(1.4) },
    { start: at(2), end: at(2.5) },
    { start: second!.start, end: second!.start + 2 },
  ]
  expect(said).toHaveLength(expected.length)
  said.forEach(({ start, end }, i) => {
    expect(start).toBeCloseTo(expected[i]!.start, 9)
    expect(end).toBeCloseTo(expected[i]!.end, 9)
  })
})

test('a word that is cut counts as far as it is heard', () => {
  const said = saidIn(timeline, heard({ [first!.passage.id]: [word(5.5, 6.5)] }), [])
  expect(said).toHaveLength(1)
  expect(said[0]!.end).toBeCloseTo(first!.end, 9)
})
