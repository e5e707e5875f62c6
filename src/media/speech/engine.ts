import type { ReadingSettings, SentenceToSay, SpeechVoice } from '@/core/narration/speechVoice'
import type { Hertz, Seconds } from '@/core/units'

/** One sentence as an engine has said it. */
export interface SpokenSentence {
  rate: Hertz
  samples: Float32Array
  /** Where each of its words begins, or null where the engine does not tell. */
  starts: Seconds[] | null
}

/** A speech synthesiser. Each runs as a process of its own. */
export interface SpeechEngine {
  /** The part of a voice's id before the colon. */
  name: string
  /** Whether it speaks faster and slower as it is told, and quickly enough to be tried first. */
  keepsRate: boolean
  voices(): Promise<SpeechVoice[]>
  /** Says the sentences in order and hands each over as it comes. `settings.voice` is without the engine's name. */
  say(
    sentences: readonly SentenceToSay[],
    settings: ReadingSettings,
    take: (sentence: SpokenSentence) => void | Promise<void>,
    signal?: AbortSignal,
  ): Promise<void>
}
