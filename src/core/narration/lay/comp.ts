import type { Passage } from '@/core/lesson/document'
import type { TimedWord } from '@/core/messages/job'
import type { Seconds } from '@/core/units'
import { readScript } from '@/core/narration/words/script'

/** A part of a script that is chosen as a whole: a clause, or a short sentence. Characters of the script. */
export interface ScriptPhrase {
  text: string
  from: number
  to: number
}

/** A take of a step with the words that were found in it. */
export interface AlignedTake {
  media: string
  from: Seconds
  to: Seconds
  words: readonly TimedWord[]
}

const CLAUSE_END = /[,;:–—.!?…]["'”’)\]]*$/u
const FEWEST_WORDS = 3
/** Kept before the first word and after the last one, where the take has it. */
const MARGIN: Seconds = 0.25
/** Words further apart than this have a pause between them. */
const PAUSE: Seconds = 0.03

/** The phrases of a script: clauses of at least three words. */
export function scriptPhrases(script: string): ScriptPhrase[] {
  const { words } = readScript(script)
  const phrases: ScriptPhrase[] = []
  let first = 0
  words.forEach((word, i) => {
    const next = words[i + 1]
    const ends =
      !next || next.sentence !== word.sentence || (CLAUSE_END.test(word.text) && i + 1 - first >= FEWEST_WORDS)
    if (!ends) return
    const own = words.slice(first, i + 1)
    phrases.push({ text: own.map(({ text }) => text).join(' '), from: own[0]!.from, to: word.to })
    first = i + 1
  })
  return phrases
}

/** Whether all words of a phrase were found in a take. */
export const isSaidIn = ({ words }: AlignedTake, { from, to }: ScriptPhrase): boolean =>
  words.some((word) => word.from >= from && word.to <= to)

/**
 * The passages of a step whose phrases come from different takes: `choice` names a take for each phrase, or null to
 * leave it out. Phrases that follow each other in one take stay together; joins lie in pauses, or where no pause is,
 * between the words.
 */
export function compPassages(
  phrases: readonly ScriptPhrase[],
  choice: readonly (number | null)[],
  takes: readonly AlignedTake[],
  newId: () => string,
): Passage[] {
  const runs: { take: number; first: number; last: number }[] = []
  choice.forEach((take, phrase) => {
    const run = runs.at(-1)
    if (take === null) return
    if (run && run.take === take && run.last === phrase - 1) run.last = phrase
    else runs.push({ take, first: phrase, last: phrase })
  })
  return runs.flatMap(({ take, first, last }) => {
    const aligned = takes[take]!
    const own = aligned.words.filter((word) => word.from >= phrases[first]!.from && word.to <= phrases[last]!.to)
    if (own.length === 0) return []
    const from = edgeBefore(aligned, Math.min(...own.map(({ start }) => start)))
    const to = edgeAfter(aligned, Math.max(...own.map(({ end }) => end)))
    return [{ id: newId(), media: aligned.media, from, to, pause: 0 }]
  })
}

/** Half of the pause before a word, at most the margin. */
function edgeBefore({ words, from }: AlignedTake, start: Seconds): Seconds {
  const before = Math.max(from, ...words.filter(({ end }) => end <= start + 1e-6).map(({ end }) => end))
  const gap = start - before
  return gap > PAUSE ? start - Math.min(MARGIN, before === from ? gap : gap / 2) : start
}

function edgeAfter({ words, to }: AlignedTake, end: Seconds): Seconds {
  const after = Math.min(to, ...words.filter(({ start }) => start >= end - 1e-6).map(({ start }) => start))
  const gap = after - end
  return gap > PAUSE ? end + Math.min(MARGIN, after === to ? gap : gap / 2) : end
}
