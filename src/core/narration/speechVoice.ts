import { marksAround } from './words/marksAround'
import { z } from 'zod'
import { sayAs } from './words/sayAs'
import { readScript, type Script } from './words/script'

/** A synthesised voice that is installed. `id` is engine and voice, such as `espeak-ng:en-gb`. */
export interface SpeechVoice {
  id: string
  name: string
  /** BCP 47. */
  language: string
  /** What may be done with what it says, where somebody has noted it. */
  licence?: string
}

/** How a script is read by a synthesised voice. */
export const readingSettingsSchema = z.object({
  voice: z.string().min(1).max(80),
  /** Words a minute, with the usual pauses between sentences; within 5 % for a text of 30 words and more. */
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

const MOST_PRONUNCIATIONS = 1000

/** What somebody says of single words: whoever else does so at the same time is not undone by it. */
export const pronunciationsChangeSchema = z.object({
  said: z.array(pronunciationSchema).max(MOST_PRONUNCIATIONS),
  forgotten: z.array(z.string().max(60)).max(MOST_PRONUNCIATIONS),
})
export type PronunciationsChange = z.infer<typeof pronunciationsChangeSchema>

export const changedPronunciations = (
  now: readonly Pronunciation[],
  { said, forgotten }: PronunciationsChange,
): Pronunciation[] => {
  const gone = new Set([...forgotten, ...said.map(({ word }) => word)])
  return [...now.filter(({ word }) => !gone.has(word)), ...said].slice(0, MOST_PRONUNCIATIONS)
}

/** A sentence as an engine is given it. */
export interface SentenceToSay {
  words: { said: string; stressed: boolean }[]
}

/** What has to be said for each sentence of a script: by the pronunciation list, else as people of its language say it. */
export function sentencesToSay(
  { words, sentences }: Script,
  pronunciations: readonly Pronunciation[],
  language: string,
): SentenceToSay[] {
  const said = new Map(pronunciations.map(({ word, saidAs }) => [bare(word), saidAs]))
  return sentences.map(({ firstWord, lastWord }) => ({
    words: words.slice(firstWord, lastWord + 1).map(({ text, stressed }, i, own) => ({
      said: pronounce(text, said) ?? sayAs(text, own[i - 1]?.text, language) ?? text,
      stressed,
    })),
  }))
}

/** Words of some scripts that are said otherwise than they are written, without those that the pronunciation list names. */
export function oddWords(
  scripts: readonly string[],
  pronunciations: readonly Pronunciation[],
  language: string,
): Pronunciation[] {
  const told = new Set(pronunciations.map(({ word }) => bare(word)))
  const found = new Map<string, Pronunciation>()
  for (const script of scripts) {
    const { words } = readScript(script)
    words.forEach(({ text }, i) => {
      const said = sayAs(text, words[i - 1]?.text, language)
      if (said === null || told.has(bare(text))) return
      const one = { word: inner(text), saidAs: inner(said) }
      found.set(`${one.word} ${one.saidAs}`, one)
    })
  }
  return [...found.values()]
}

/** A word, and the brackets, quotation marks, dashes and stops around it; signs that are said (−5, €20, 7 %) are the word's. */
const parted = (text: string) => marksAround(text, `([{"'“‘«–—`, `)]}"'”’».,;:!?…–—`)

const inner = (text: string) => parted(text)[1]

/** Puts what is said in place of the word, and keeps the marks around it; null where nothing is told of it. */
function pronounce(text: string, said: ReadonlyMap<string, string>): string | null {
  const other = said.get(bare(text))
  if (other === undefined) return null
  const [before, , after] = parted(text)
  return before + other + after
}

const bare = (word: string) => inner(word).toLocaleLowerCase()
