import type { StepWord } from '@/core/narration/words/stepWords'
import { wordRuns } from './rowWords'
import { geometryOf, linesOf, rowHeight, LEAST_ROW } from './view'

/** Every letter is ten pixels wide here. */
const measure = (text: string) => text.length * 10
/** Lines of 600 pixels, and what is beside them. */
const geometry = geometryOf(100, 46, 600 + 148 + 104)
const word = (text: string, start: number, end: number): StepWord => ({
  text,
  start,
  end,
  passage: 'p',
  at: { from: start, to: end },
  script: { from: 0, to: 0 },
  sentence: 0,
  confidence: 1,
})
const runs = (words: StepWord[], lines: number, start = 0) => wordRuns(words, start, geometry, lines, measure)

test('words stand at their time', () => {
  const [line] = runs([word('tide.', 1, 2), word('bell', 4, 5)], 1)
  expect(line!.map(({ text, left }) => [text, left])).toEqual([
    ['tide.', 100],
    ['bell', 400],
  ])
})

test('a wide word pushes the next ones on instead of covering them, but not too far from their time', () => {
  const long = 'a'.repeat(20)
  const [line] = runs([word(long, 0, 1), word('then', 1.2, 1.5), word(long, 1.5, 2), word('far', 2, 2.1)], 1)
  expect(line![1]!.left).toBeGreaterThanOrEqual(200)
  expect(line![3]!.left).toBeLessThanOrEqual(200 + 160)
  expect(line![2]!.size).toBe(200)
  expect(line![2]!.room).toBeLessThan(200)
})

test('a word that would run over the end of a line begins the next one', () => {
  const [first, second] = runs([word('these', 5, 5.3), word('words', 5.7, 6)], 2)
  expect(first!.map(({ text }) => text)).toEqual(['these'])
  expect(second![0]).toMatchObject({ text: 'words', left: 0 })
})

test('a phrase without a script is a bar as long as it lasts, also across lines', () => {
  const [first, second] = runs([word('', 14, 18)], 2, 10)
  expect(first).toEqual([{ word: 0, text: '', left: 400, size: 200, room: 200 }])
  expect(second).toEqual([{ word: 0, text: '', left: 0, size: 200, room: 200 }])
})

test('rows are as high as their lines need', () => {
  expect(geometry.lineSeconds).toBe(6)
  expect([0.5, 6, 6.01, 18].map((length) => linesOf(length, geometry))).toEqual([1, 1, 2, 3])
  expect(rowHeight(18, geometry) - rowHeight(12, geometry)).toBe(geometry.lineHeight)
  expect(rowHeight(0.1, geometryOf(100, 28, 852))).toBeGreaterThanOrEqual(LEAST_ROW)
})

test('where the sheet is narrow, less is kept free beside the lines', () => {
  const { left, right, lineSeconds } = geometryOf(100, 46, 390)
  expect([left + right < 160, lineSeconds > 2]).toEqual([true, true])
  expect(geometry.lineSeconds).toBe(6)
})
