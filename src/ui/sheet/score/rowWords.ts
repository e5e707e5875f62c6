import { useEffect, useState } from 'react'
import type { StepWord } from '@/core/narration/words/stepWords'
import type { Seconds } from '@/core/units'
import type { SheetGeometry } from './view'

/** One word in one line, in pixels from the line's left end. */
export interface WordRun {
  word: number
  text: string
  left: number
  /** As wide as it is printed, and as wide as it may be: what is wider is cut off with dots. */
  size: number
  room: number
}

const FONT = "13px 'Atkinson Hyperlegible Next', sans-serif"
const BETWEEN = 4
/** A word is drawn so much wider than its text. */
const MARGIN = 4
/** Words may stand so much later than they are said, so that their neighbours stay whole. */
const MOST_DRIFT = 160

/**
 * Words at their times, as far as there is room. Print is often wider than speech is long: a word then pushes the next
 * one on a little, and words that would run over a line's end go on in the next line.
 */
export function wordRuns(
  words: readonly StepWord[],
  stepStart: Seconds,
  geometry: SheetGeometry,
  lines: number,
  measure: Measure,
): WordRun[][] {
  const width = geometry.lineSeconds * geometry.pixelsPerSecond
  const perLine: WordRun[][] = Array.from({ length: lines }, () => [])
  // Where the next word may begin at the earliest, counted over all lines as if they were one.
  let free = 0
  words.forEach((word, index) => {
    if (!word.text) return placeUnnamed(perLine, word, index, stepStart, geometry)
    const wanted = (word.start - stepStart) * geometry.pixelsPerSecond
    let at = Math.max(wanted, Math.min(free, wanted + MOST_DRIFT))
    const size = measure(word.text)
    const lineEnd = (Math.floor(at / width) + 1) * width
    // A word that is wider than a whole line stays where it is.
    if (at + size + MARGIN > lineEnd && size < width && lineEnd < lines * width) at = lineEnd
    const line = Math.min(lines - 1, Math.floor(at / width + 1e-9))
    perLine[line]!.push({ word: index, text: word.text, left: at - line * width, size, room: 0 })
    free = at + size + BETWEEN
  })
  for (const runs of perLine)
    runs.forEach((run, i) => (run.room ||= Math.max(8, (runs[i + 1]?.left ?? width) - run.left - 1)))
  return perLine
}

/** A phrase whose words are not known is a bar as long as it lasts. */
function placeUnnamed(
  perLine: WordRun[][],
  phrase: StepWord,
  index: number,
  stepStart: Seconds,
  geometry: SheetGeometry,
): void {
  const { lineSeconds, pixelsPerSecond } = geometry
  perLine.forEach((runs, line) => {
    const from = Math.max(phrase.start - stepStart, line * lineSeconds)
    const to = Math.min(phrase.end - stepStart, (line + 1) * lineSeconds)
    if (to <= from) return
    const size = (to - from) * pixelsPerSecond
    runs.push({ word: index, text: '', left: (from - line * lineSeconds) * pixelsPerSecond, size, room: size })
  })
}

/** Width of a text in pixels. */
export type Measure = (text: string) => number

/** Measures in the words' own font; anew once that has been loaded, since what stands in for it is wider. */
export function useWordMeasure(): Measure {
  const [measure, setMeasure] = useState(createMeasure)
  useEffect(() => {
    void document.fonts.load(FONT).then(() => setMeasure(createMeasure))
  }, [])
  return measure
}

/** Keeps what it has measured: words come again and again, and measuring is slow. */
function createMeasure(): Measure {
  const widths = new Map<string, number>()
  let pen: CanvasRenderingContext2D | null = null
  return (text) => {
    const known = widths.get(text)
    if (known !== undefined) return known
    if (!pen) {
      pen = document.createElement('canvas').getContext('2d')!
      pen.font = FONT
    }
    const { width } = pen.measureText(text)
    widths.set(text, width)
    return width
  }
}
