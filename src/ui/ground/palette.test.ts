import { contrastOf } from '@/core/picture/contrast'
import { PALETTES, type Palette } from './palette'

test('black on white', () => {
  expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21)
  expect(contrastOf('#777777', '#ffffff')).toBeCloseTo(4.48, 2)
})

type Pair = [keyof Palette, keyof Palette]
const TEXT: Pair[] = [
  ...(['ink', 'softInk', 'paleInk', 'bedInk', 'fault', 'held'] as const).flatMap((name): Pair[] => [
    [name, 'paper'],
    [name, 'tint'],
  ]),
  ...(['ink', 'softInk', 'bedInk', 'fault'] as const).map((name): Pair => [name, 'ground']),
  ...(['chosen', 'word', 'wordChosen', 'notice', 'faultPaper', 'heldPaper'] as const).map((on): Pair => ['ink', on]),
  ['softInk', 'chosen'],
  ['softInk', 'word'],
  ['onInk', 'ink'],
  ['soundsInk', 'soundsPaper'],
  ['bedInk', 'bedPaper'],
  ['held', 'heldPaper'],
  ['fault', 'faultPaper'],
]
const PARTS: Pair[] = (['voice', 'bed', 'sounds', 'picture', 'fault', 'edge', 'focus'] as const).flatMap((name) => [
  [name, 'paper'],
  [name, 'ground'],
])

test.each(Object.entries(PALETTES))('on a %s ground text has 4.5, and parts 3', (_, palette) => {
  const least = (pairs: Pair[], wanted: number) =>
    pairs
      .filter(([a, b]) => contrastOf(palette[a], palette[b]) < wanted)
      .map(([a, b]) => `${a} on ${b}: ${contrastOf(palette[a], palette[b]).toFixed(2)}`)
  expect(least(TEXT, 4.5)).toEqual([])
  expect(least(PARTS, 3)).toEqual([])
})

test.each(Object.entries(PALETTES))('on a %s ground voice and music differ in lightness', (_, { voice, bed }) => {
  expect(contrastOf(voice, bed)).toBeGreaterThan(1.7)
})
