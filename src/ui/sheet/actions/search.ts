import { say } from '@/messages/say'

/** Finding things by what people call them: all that is meant, best first; where nothing is, what comes nearest. */

export interface Found<T> {
  found: T[]
  /** Nothing is called just so: these share a word with what is sought. */
  isNearest: boolean
}

const MOST_NEAREST = 6
/** Words that begin alike are mostly of one family: 'recordings', 'recorded'. */
const FAMILY = 5

/** `calledOf`: what it is called first, then other words by which somebody would look for it. */
export function search<T>(
  sought: string,
  all: readonly T[],
  calledOf: (one: T) => [name: string, others: string],
): Found<T> {
  const parts = wordsOf(sought)
  if (parts.length === 0) return { found: [...all], isNearest: false }
  const scored = all
    .map((one) => {
      const [name, others] = calledOf(one).map(wordsOf)
      const scores = parts.map((part) => Math.max(likeness(part, name!), 0.8 * likeness(part, others!)))
      return {
        one,
        hits: scores.filter((score) => score > 0).length,
        score: scores.reduce((sum, score) => sum + score, 0),
      }
    })
    .filter(({ hits }) => hits > 0)
    .sort((a, b) => b.score - a.score)
  const meant = scored.filter(({ hits }) => hits === parts.length)
  const isNearest = meant.length === 0 && scored.length > 0
  return { found: (isNearest ? scored.slice(0, MOST_NEAREST) : meant).map(({ one }) => one), isNearest }
}

/** 1: the word itself, less where it only begins so, 0 where none is like it. */
function likeness(part: string, words: readonly string[]): number {
  if (words.includes(part)) return 1
  if (words.some((word) => word.startsWith(part))) return 0.8
  const stem = part.slice(0, FAMILY)
  return stem.length === FAMILY && words.some((word) => word.startsWith(stem)) ? 0.5 : 0
}

function wordsOf(text: string): string[] {
  const little = new Set(say('actions.littleWords').split(' '))
  return text
    .toLocaleLowerCase()
    .split(/[^\p{L}\p{N}-]+/u)
    .filter((word) => word !== '' && !little.has(word))
}
