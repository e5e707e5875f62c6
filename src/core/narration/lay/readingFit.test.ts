import { misfit, readingFit } from './readingFit'

const script = 'One two. Three four. Five six. Seven eight.'
const found = (skipped: number[]) => ({
  words: [],
  skipped,
  extra: [
    { kind: 'ad-lib' as const, start: 2, end: 14 },
    { kind: 'retake' as const, start: 20, end: 24, sentence: 1 },
  ],
})

test('a reading fits where half of its script is said', () => {
  expect(readingFit(script, found([1, 2]))).toEqual({ sentences: 4, said: 2, besides: 12 })
  expect(misfit(readingFit(script, found([1, 2])))).toBeNull()
})

test('one that does not is told with what was found, and how long it says something else', () => {
  expect(misfit(readingFit(script, found([0, 1, 2])))).toMatch(/^Only one of the 4 sentences .* for 12 s /)
  expect(misfit(readingFit(script, found([0, 1, 2, 3])))).toMatch(/^Nothing of the script /)
})
