import { z } from 'zod'
import type { Script } from './words/script'

/** A synthesised voice that is installed. `id` is engine and voice, such as `espeak-ng:en-gb`. */
export interface SpeechVoice {
  id: string
  name: string
  /** BCP 47. */
  language: string
}

/** How a script is read by a synthesised voice. */
export const readingSettingsSchema = z.object({
  voice: z.string().min(1).max(80),
  /** Words a minute, about. */
  rate: z.number().min(80).max(300),
  /** 0..100; 50 is the voice's own. */
  pitch: z.number().min(0).max(100),
  /** Between two sentences, in seconds. */
  pause: z.number().min(0).max(5),
})
export type ReadingSettings = z.infer<typeof readingSettingsSchema>

export const DEFAULT_READING: ReadingSettings = { voice: 'espeak-ng:en-gb', rate: 140, pitch: 45, pause: 0.45 }

/** A word that the voice would say wrongly, and how it is written so that it comes out right. */
export const pronunciationSchema = z.object({ word: z.string().min(1).max(60), saidAs: z.string().min(1).max(120) })
export type Pronunciation = z.infer<typeof pronunciationSchema>

/** A sentence as an engine is given it. */
export interface SentenceToSay {
  words: { said: string; stressed: boolean }[]
}

/** What has to be said for each sentence of a script, with the pronunciation list applied. */
export function sentencesToSay(
  { words, sentences }: Script,
  pronunciations: readonly Pronunciation[],
): SentenceToSay[] {
  const said = new Map(pronunciations.map(({ word, saidAs }) => [bare(word), saidAs]))
  return sentences.map(({ firstWord, lastWord }) => ({
    words: words
      .slice(firstWord, lastWord + 1)
      .map(({ text, stressed }) => ({ said: pronounce(text, said), stressed })),
  }))
}

/** Puts what is said in place of the word, and keeps the marks around it. */
function pronounce(text: string, said: ReadonlyMap<string, string>): string {
  const other = said.get(bare(text))
  if (other === undefined) return text
  const [, before, , after] = /^([^\p{L}\p{N}]*)(.*?)([^\p{L}\p{N}]*)$/su.exec(text)!
  return before + other + after
}

const bare = (word: string) => word.toLocaleLowerCase().replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '')
