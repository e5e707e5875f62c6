import type { StepWord } from '@/core/narration/words/stepWords'
import type { WordRange } from '@/core/narration/words/wordRange'
import type { Seconds } from '@/core/units'
import type { Caret } from '../../lesson/lessonStore'
import type { Measure, WordRun } from './rowWords'
import type { RowContent } from './rowContents'
import type { SheetGeometry } from './view'

/** What a row of the sheet shows, in times counted from its step's beginning (rowContents.ts). */
export interface RowProps extends RowContent {
  /** Of its step in the lesson, from 0. */
  index: number
  hasBed: boolean
  /** What there is to say of its voice, such as that a stand-in reads it. */
  voice: string | null
  geometry: SheetGeometry
  selected: boolean
  measure: Measure
  /** Null where the caret stands in another step. */
  caret: Caret | null
  /** The step's words that are selected. */
  chosen: WordRange | null
  onSelect(step: string, how: { add: boolean; range: boolean }): void
  onCaret(step: string, word: number, extend: boolean): void
}

/** What a line of a row shows. */
export interface LineProps extends Omit<RowProps, 'index'> {
  line: number
  lines: number
  words: readonly StepWord[]
  runs: WordRun[]
  caretAt: Seconds | null
}
