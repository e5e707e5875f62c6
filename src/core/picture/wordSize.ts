import { UNITS, type Frame } from './frame'
import type { WordsLayer } from '@/core/lesson/layers'

/**
 * How large words over a picture are set: as their role asks for, or so small that they fit their area. All in shares of the
 * frame's shorter side; `widthOf` gives a text's width in letters of size 1.
 */
export const WORD_ROLES = {
  title: { size: 0.09, weight: 700, leading: 1.14, align: 'middle' },
  'lower line': { size: 0.046, weight: 700, leading: 1.25, align: 'left' },
  label: { size: 0.04, weight: 400, leading: 1.25, align: 'middle' },
  // EBU practice: a line is about a fifteenth of the picture.
  caption: { size: 0.05, weight: 400, leading: 1.3, align: 'middle' },
} as const

/** Room around the letters in a box, in their size. */
export const WORD_PADDING = 0.45
/** Each try is smaller by this. */
export const SMALLER = 0.94
export const LEAST_SIZE = 0.013

/** Of a usual letter: the widths of many together are told well by it. */
const USUAL_WIDTH = 0.54

/** About how large the letters are, as far as can be told without drawing them. */
export function sizeOfWords({ role, text, area }: Pick<WordsLayer, 'role' | 'text' | 'area'>, frame: Frame): number {
  const [across, down] = [(area.width * frame.width) / UNITS, (area.height * frame.height) / UNITS]
  const { leading, size: asked } = WORD_ROLES[role]
  let size: number = asked
  while (size > LEAST_SIZE) {
    const width = across - 2 * WORD_PADDING * size
    const lines = linesIn(text, width / (size * USUAL_WIDTH))
    if (lines * size * leading + WORD_PADDING * size <= down) break
    size *= SMALLER
  }
  return size
}

/** How many lines of so many letters a text takes; a word that is longer makes any number too few. */
function linesIn(text: string, letters: number): number {
  let lines = 0
  for (const written of text.split('\n')) {
    let left = 0
    for (const { length } of written.split(/\s+/).filter(Boolean)) {
      if (length > letters) return Infinity
      if (length + 1 > left) {
        lines++
        left = letters
      }
      left -= length + 1
    }
  }
  return lines
}
