import type { Seconds } from '@/core/units'
import { endsSentence } from './sentenceEnds'

/**
 * A script as people write it, and the few marks in it that a reading voice heeds (a subset of W3C SSML 1.1 written
 * simply): `*words*` are stressed, `[pause]` or `[pause 1.5]` is silence of so many seconds. People who read it
 * themselves don't say the marks, and nothing that shows the script shows them.
 */
export interface ScriptWord {
  /** As it is shown: no marks. */
  text: string
  /** Where it stands in the script, in characters. */
  from: number
  to: number
  sentence: number
  stressed: boolean
}

export interface ScriptSentence {
  /** As it is shown and said: no marks, single spaces. */
  text: string
  from: number
  to: number
  /** Range of its words. */
  firstWord: number
  lastWord: number
  /** A pause asked for after it. */
  pause: Seconds
}

export interface Script {
  words: ScriptWord[]
  sentences: ScriptSentence[]
}

/** What `[pause]` without a figure means. */
const USUAL_PAUSE: Seconds = 0.7
const PAUSE_MARK = /\[pause(?:\s+(\d+(?:[.,]\d+)?)\s*s?)?\]/giu
const TOKEN = /\[pause(?:\s+(?:\d+(?:[.,]\d+)?)\s*s?)?\]|\n+|(?:(?!\[pause[\s\]])\S)+/giu
const SAYS_SOMETHING = /[\p{L}\p{N}]/u

/** Words and sentences of a script. A line's end ends a sentence, too; `byLine`, only that does. */
export function readScript(script: string, { byLine = false } = {}): Script {
  const words: ScriptWord[] = []
  const sentences: ScriptSentence[] = []
  let firstWord = 0
  let stressed = false
  const end = (pause: Seconds) => {
    if (words.length > firstWord) sentences.push(sentenceOf(script, words, firstWord, pause))
    else if (sentences.length > 0) sentences.at(-1)!.pause += pause
    firstWord = words.length
  }
  const tokens = tokensOf(script)
  for (const [i, { token, index }] of tokens.entries()) {
    const pause = pauseOf(token)
    if (pause !== null) end(pause)
    else if (token.startsWith('\n')) end(0)
    else {
      const opens = /^["'“‘(]*\*/u.test(token)
      if (opens) stressed = true
      const text = token.replaceAll('*', '')
      // A dash or a lone mark belongs to the word before it.
      if (SAYS_SOMETHING.test(text))
        words.push({ text, from: index, to: index + token.length, sentence: sentences.length, stressed })
      else if (words.length > firstWord && text) extend(words.at(-1)!, text, index, index + token.length)
      if (token.slice(opens ? token.indexOf('*') + 1 : 0).includes('*')) stressed = false
      const before = words.length - 2 >= firstWord ? words.at(-2)!.text : undefined
      if (!byLine && words.length > firstWord && endsSentence(text, tokens[i + 1]?.token, before)) end(0)
    }
  }
  end(0)
  return { words, sentences }
}

/** What stands between spaces; languages that write no spaces are parted where a reader would (Unicode UAX 29). */
function tokensOf(script: string): { token: string; index: number }[] {
  return [...script.matchAll(TOKEN)].flatMap(({ 0: token, index }) => {
    if (!WITHOUT_SPACES.test(token)) return [{ token, index }]
    segmenter ??= new Intl.Segmenter('und', { granularity: 'word' })
    return [...segmenter.segment(token)].map((part) => ({ token: part.segment, index: index + part.index }))
  })
}

const WITHOUT_SPACES =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u
let segmenter: Intl.Segmenter | undefined

/** The script without its marks, as a caption or a line on the sheet shows it. */
export const shownText = (script: string): string =>
  script.replace(PAUSE_MARK, ' ').replaceAll('*', '').replace(/\s+/g, ' ').trim()

/** `at` is where the mark stands that belongs to the word. */
function extend(word: ScriptWord, text: string, at: number, to: number): void {
  word.text += at > word.to ? ` ${text}` : text
  word.to = to
}

function sentenceOf(script: string, words: readonly ScriptWord[], firstWord: number, pause: Seconds): ScriptSentence {
  const [from, to] = [words[firstWord]!.from, words.at(-1)!.to]
  return {
    text: shownText(script.slice(from, to)),
    from,
    to,
    firstWord,
    lastWord: words.length - 1,
    pause,
  }
}

function pauseOf(token: string): Seconds | null {
  const found = new RegExp(PAUSE_MARK.source, 'iu').exec(token)
  if (!found) return null
  return found[1] ? Number(found[1].replace(',', '.')) : USUAL_PAUSE
}
