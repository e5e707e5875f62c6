import type { Phrase } from '@/core/narration/phrases'
import { wordRuns } from './rowWords'
import { geometryOf, linesOf, rowHeight, LEAST_ROW } from './view'

/** Every letter is ten pixels wide here. */
const measure = (text: string) => text.length * 10
const geometry = geometryOf(100, 46, 600)
const phrase = (start: number, end: number, scriptFrom: number, scriptTo: number): Phrase => ({
  passage: 'p',
  start,
  end,
  breakAt: 0,
  scriptFrom,
  scriptTo,
})
const runs = (phrases: Phrase[], script: string, lines: number, start = 0) =>
  wordRuns(phrases, script, start, geometry, lines, measure)

test('words stand at their time', () => {
  const [line] = runs([phrase(1, 2, 0, 5), phrase(4, 5, 5, 9)], 'tide. bell', 1)
  expect(line!.map(({ text, left }) => [text, left])).toEqual([
    ['tide.', 100],
    ['bell'.slice(0, 3), 400],
  ])
})

test('a wide phrase pushes the next one on instead of covering it', () => {
  const script = 'a long first phrase then more'
  const [line] = runs([phrase(0, 1, 0, 20), phrase(1.2, 2, 20, 29)], script, 1)
  expect(line![0]!.text).toBe('a long first phrase')
  expect(line![1]!.left).toBeGreaterThanOrEqual(190)
  expect(line![1]!.left).toBeLessThan(120 + 161)
})

test('words that would run over the end of a line go on in the next one', () => {
  const script = 'these words run over the end'
  const [first, second] = runs([phrase(4, 7, 0, script.length)], script, 2)
  expect(`${first![0]!.text} ${second![0]!.text}`).toBe(script)
  expect(second![0]!.left).toBe(0)
  expect(first![0]!.left + measure(first![0]!.text)).toBeLessThanOrEqual(600)
})

test('a phrase without a script is a bar as long as it lasts, also across lines', () => {
  const [first, second] = runs([phrase(14, 18, 0, 0)], '', 2, 10)
  expect(first).toEqual([{ phrase: 0, text: '', left: 400, room: 200 }])
  expect(second).toEqual([{ phrase: 0, text: '', left: 0, room: 200 }])
})

test('rows are as high as their lines need', () => {
  expect(geometry.lineSeconds).toBe(6)
  expect([0.5, 6, 6.01, 18].map((length) => linesOf(length, geometry))).toEqual([1, 1, 2, 3])
  expect(rowHeight(18, geometry) - rowHeight(12, geometry)).toBe(geometry.lineHeight)
  expect(rowHeight(0.1, geometryOf(100, 28, 600))).toBeGreaterThanOrEqual(LEAST_ROW)
})
