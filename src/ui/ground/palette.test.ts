import { PALETTES, type Palette } from './palette'

/** Relative luminance and contrast as WCAG 2.2 defines them. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = parseInt(hex.slice(at, at + 2), 16) / 255
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
const contrast = (a: string, b: string): number => {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number]
  return (light + 0.05) / (dark + 0.05)
}

test('black on white', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21)
  expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2)
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
      .filter(([a, b]) => contrast(palette[a], palette[b]) < wanted)
      .map(([a, b]) => `${a} on ${b}: ${contrast(palette[a], palette[b]).toFixed(2)}`)
  expect(least(TEXT, 4.5)).toEqual([])
  expect(least(PARTS, 3)).toEqual([])
})

test.each(Object.entries(PALETTES))('on a %s ground voice and music differ in lightness', (_, { voice, bed }) => {
  expect(contrast(voice, bed)).toBeGreaterThan(1.7)
})
