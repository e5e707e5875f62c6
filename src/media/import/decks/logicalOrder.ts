import bidiFactory from 'bidi-js'

const bidi = bidiFactory()

const RIGHT_TO_LEFT = /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}]/gu
const LETTERS = /\p{L}/gu

/**
 * The lines of a page, whose letters come from left to right as they stand there, each in the order in which it is read. What
 * the Unicode Bidirectional Algorithm (UAX #9) turns round for the eye it turns back in the same way, in the direction in
 * which most of the page is written. Letters in the shape of their place in the word become letters.
 */
export function logicalOrder(lines: readonly string[]): string[] {
  const page = lines.join(' ')
  const rightToLeft = count(page, RIGHT_TO_LEFT)
  if (rightToLeft === 0) return [...lines]
  const direction = rightToLeft * 2 > count(page, LETTERS) ? 'rtl' : 'ltr'
  return lines.map((line) =>
    count(line, RIGHT_TO_LEFT) === 0
      ? line
      : bidi.getReorderedString(line, bidi.getEmbeddingLevels(line, direction)).normalize('NFKC'),
  )
}

const count = (text: string, pattern: RegExp): number => text.match(pattern)?.length ?? 0
