import type { Passage, Step } from '@/core/lesson/document'
import type { Cut } from '@/core/lesson/takeEdits'
import type { Analysis } from '@/core/measure/analysis'
import type { Seconds } from '@/core/units'
import { cutBefore } from './cutPlaces'
import type { StepWord } from './stepWords'

/** Words `from` to `to` (exclusive) of a step. */
export interface WordRange {
  from: number
  to: number
}

/** Words taken out of a step, to be put in elsewhere. */
export interface WordClip {
  /** Without ids: each place gives its own. */
  pieces: Omit<Passage, 'id'>[]
  text: string
}

type AnalysisOfPassage = (passage: string) => Analysis | undefined

/** Kept after the last word of a step when it is cut or copied. */
const AFTER_LAST: Seconds = 0.1

/** The parts of a step's passages in which the words of a range are said. */
export function partsOfRange(
  step: Step,
  words: readonly StepWord[],
  { from, to }: WordRange,
  analysisOf: AnalysisOfPassage,
): { passage: Passage; from: Seconds; to: Seconds }[] {
  const first = cutBefore(words, from, analysisOf)
  const last = words[to - 1]
  if (!first || !last || from >= to) return []
  const next = cutBefore(words, to, analysisOf)
  const firstIndex = step.passages.findIndex(({ id }) => id === first.passage)
  const lastIndex = step.passages.findIndex(({ id }) => id === last.passage)
  const isWithin = words[to]?.passage === last.passage
  const end = isWithin ? next!.at : words[to] ? Infinity : last.at.to + AFTER_LAST
  return step.passages.slice(firstIndex, lastIndex + 1).flatMap((passage, i, own) => {
    const part = {
      passage,
      from: i === 0 ? Math.max(passage.from, first.at) : passage.from,
      to: i === own.length - 1 ? Math.min(passage.to, end) : passage.to,
    }
    return part.to > part.from ? [part] : []
  })
}

export function cutsOfRange(
  step: Step,
  words: readonly StepWord[],
  range: WordRange,
  analysisOf: AnalysisOfPassage,
  newId: () => string,
): Cut[] {
  return partsOfRange(step, words, range, analysisOf).map(({ passage, from, to }) => ({
    passage: passage.id,
    from,
    to,
    newPassage: newId(),
  }))
}

export function clipOfRange(
  step: Step,
  words: readonly StepWord[],
  range: WordRange,
  analysisOf: AnalysisOfPassage,
): WordClip {
  const pieces = partsOfRange(step, words, range, analysisOf).map(({ passage, from, to }, i) => ({
    media: passage.media,
    from,
    to,
    pause: i === 0 || from > passage.from ? 0 : passage.pause,
  }))
  const [first, last] = [words[range.from], words[range.to - 1]]
  return { pieces, text: first && last ? step.script.slice(first.script.from, last.script.to) : '' }
}

/** A script without the words of a range, and with single spaces where they were. */
export function scriptWithout(script: string, words: readonly StepWord[], { from, to }: WordRange): string {
  const [first, last] = [words[from], words[to - 1]]
  if (!first || !last) return script
  return joined(script.slice(0, first.script.from), script.slice(last.script.to))
}

/** A script with a text put in before word `index`. */
export function scriptWith(script: string, words: readonly StepWord[], index: number, text: string): string {
  const at = words[index]?.script.from ?? script.length
  return joined(joined(script.slice(0, at), text), script.slice(at))
}

const joined = (first: string, second: string) => [first.trimEnd(), second.trimStart()].filter(Boolean).join(' ')
