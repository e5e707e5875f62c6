import { wordsOf, type Phrase } from '@/core/narration/phrases'
import type { Seconds } from '@/core/units'

/** A run of words that begins in one line, where it stands and how much room it has. */
export interface WordRun {
  phrase: number
  text: string
  start: Seconds
  /** Where the next run begins, or the line ends. */
  until: Seconds
}

/** Spreads a step's phrases over its lines; a phrase that crosses a line's end goes on in the next line. */
export function wordRuns(phrases: readonly Phrase[], script: string, stepStart: Seconds, lineSeconds: Seconds, lines: number): WordRun[][] {
  const perLine: WordRun[][] = Array.from({ length: lines }, () => [])
  phrases.forEach((phrase, index) => {
    for (const word of wordsOf(phrase, script)) {
      const line = Math.min(lines - 1, Math.max(0, Math.floor((word.start - stepStart) / lineSeconds)))
      const last = perLine[line]!.at(-1)
      if (last?.phrase === index) last.text += ` ${word.text}`
      else perLine[line]!.push({ phrase: index, text: word.text, start: word.start, until: 0 })
    }
  })
  perLine.forEach((runs, line) => {
    const end = stepStart + (line + 1) * lineSeconds
    runs.forEach((run, i) => (run.until = runs[i + 1]?.start ?? end))
  })
  return perLine
}
