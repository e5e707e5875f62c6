import type { Step } from '@/core/lesson/document'
import { readScript } from './script'

/** A place in a lesson's words: word `word` of a step's script; -1 in its title. */
export interface FoundWords {
  step: string
  word: number
}

/** Every place where the words of a phrase are written one after the other; the last one may be begun only. */
export function findWords(steps: readonly Step[], phrase: string): FoundWords[] {
  const wanted = bareWords(phrase)
  if (wanted.length === 0) return []
  return steps.flatMap(({ id, title, script }): FoundWords[] => {
    const words = readScript(script).words.map(({ text }) => bareWords(text).join(''))
    const places = words.flatMap((_, i) => (beginsWith(words.slice(i), wanted) ? [{ step: id, word: i }] : []))
    const inTitle = bareWords(title).some((_, i, all) => beginsWith(all.slice(i), wanted))
    return inTitle ? [{ step: id, word: -1 }, ...places] : places
  })
}

function beginsWith(words: readonly string[], wanted: readonly string[]): boolean {
  const last = wanted.length - 1
  return wanted.every((word, i) => (i < last ? words[i] === word : words[i]?.startsWith(word)))
}

const bareWords = (text: string) =>
  text
    .toLowerCase()
    .split(/\s+/)
    .map((word) => word.replace(/[^\p{L}\p{N}]+/gu, ''))
    .filter(Boolean)
