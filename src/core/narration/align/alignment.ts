import type { Seconds } from '@/core/units'

/** When each word of a script is said in a take. */
export interface Alignment {
  words: AlignedWord[]
  sentences: AlignedSentence[]
  extra: ExtraSpeech[]
}

export interface AlignedWord {
  /** Counted through the whole script. */
  word: number
  sentence: number
  start: Seconds
  end: Seconds
  /** 0..1 */
  confidence: number
}

export type AlignedSentence =
  | { sentence: number; status: 'spoken'; start: Seconds; end: Seconds; confidence: number }
  | { sentence: number; status: 'skipped' }

/** What is said besides the script: an earlier try of a sentence, or something that is not in it. */
export interface ExtraSpeech {
  kind: 'retake' | 'ad-lib'
  start: Seconds
  end: Seconds
  /** Of a retake: the sentence that is tried. */
  sentence?: number
}
