import type { PassageSpan } from '@/core/lesson/timeline'
import type { SpeechSegment } from '@/core/measure/speech'
import { joinSegments } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'
import { endsClause, endsSentence } from './sentenceEnds'
import { breakPlaces } from '@/core/narration/lay/breaks'

/** What is said between two pauses of a step. */
export interface Phrase {
  passage: string
  /** Lesson time. */
  start: Seconds
  end: Seconds
  /** Where in the take a break before this phrase falls. */
  breakAt: Seconds
  /** The part of the step's script that is guessed to be said here, as character positions. */
  scriptFrom: number
  scriptTo: number
}

/** A word of the script at its guessed place in lesson time. */
export interface PlacedWord {
  text: string
  start: Seconds
  end: Seconds
}

const PHRASE_PAUSE: Seconds = 0.22

/** The phrases of one step, in order. `speechOf` gives the speech of a take in the take's own time. */
export function phrasesOf(
  spans: readonly PassageSpan[],
  script: string,
  speechOf: (media: string) => readonly SpeechSegment[],
): Phrase[] {
  const phrases = spans.flatMap(({ passage, start, end }) => {
    const to = passage.from + end - start
    const speech = joinSegments(
      speechOf(passage.media)
        .filter((segment) => segment.end > passage.from && segment.start < to)
        .map((segment) => ({ start: Math.max(passage.from, segment.start), end: Math.min(to, segment.end) })),
      PHRASE_PAUSE,
    )
    const breaks = breakPlaces(speech)
    return speech.map((segment) => ({
      passage: passage.id,
      start: start + segment.start - passage.from,
      end: start + segment.end - passage.from,
      breakAt: breaks.find(({ at }) => at < segment.start && segment.start - at <= 0.5)?.at ?? passage.from,
    }))
  })
  const edges = scriptEdges(
    script,
    phrases.map(({ start, end }) => end - start),
  )
  return phrases.map((phrase, i) => ({ ...phrase, scriptFrom: edges[i]!, scriptTo: edges[i + 1]! }))
}

/**
 * Where a script is cut when it is spread over phrases of these lengths: near the share of its letters that their time
 * has of the whole, rather at the end of a sentence or clause than between any two words, and so that every phrase gets
 * a word as long as there are enough. The cheapest of all such cuts, found phrase by phrase.
 */
export function scriptEdges(script: string, lengths: readonly Seconds[]): number[] {
  const cuts = cutPlaces(script)
  const inner = lengths.length - 1
  const total = lengths.reduce((sum, length) => sum + length, 0)
  if (cuts.length < inner || total === 0) {
    return [0, ...lengths.map((_, i) => cuts[i]?.at ?? script.length).slice(0, -1), script.length].slice(
      0,
      lengths.length + 1,
    )
  }
  const wanted: number[] = []
  lengths.slice(0, -1).reduce((passed, length) => {
    wanted.push((script.length * (passed + length)) / total)
    return passed + length
  }, 0)

  // best[c]: least cost when phrase k ends at cut c; only cuts behind the one before may follow.
  const before: Int32Array[] = []
  let best = new Float64Array(cuts.length).fill(0)
  for (let k = 0; k < inner; k++) {
    const next = new Float64Array(cuts.length).fill(Infinity)
    const came = new Int32Array(cuts.length).fill(-1)
    let cheapest = k === 0 ? -1 : k - 1
    for (let c = k; c < cuts.length; c++) {
      if (k > 0 && best[c - 1]! <= best[cheapest]!) cheapest = c - 1
      next[c] = (k > 0 ? best[cheapest]! : 0) + Math.abs(cuts[c]!.at - wanted[k]!) - cuts[c]!.worth
      came[c] = cheapest
    }
    before.push(came)
    best = next
  }
  const edges = [script.length]
  let cut = best.indexOf(Math.min(...best))
  for (let k = inner - 1; k >= 0; k--) {
    edges.unshift(cuts[cut]!.at)
    cut = before[k]![cut]!
  }
  return [0, ...edges]
}

/** Where a word begins, and what it is worth, in letters, to cut there. */
function cutPlaces(script: string): { at: number; worth: number }[] {
  const gaps = [...script.matchAll(/(\S+)\s+(?=(\S+))/g)]
  return gaps.map(({ 0: gap, 1: word, 2: next, index }, i) => ({
    at: index + gap.length,
    worth: endsSentence(word!, next, gaps[i - 1]?.[1]) ? 40 : endsClause(word!) ? 22 : 0,
  }))
}

/** Spreads the words of a phrase over its time by their letters. */
export function wordsOf({ start, end }: Pick<Phrase, 'start' | 'end'>, words: readonly string[]): PlacedWord[] {
  const total = words.reduce((sum, word) => sum + word.length + 1, 0)
  let at = start
  return words.map((text) => {
    const length = ((end - start) * (text.length + 1)) / total
    const word = { text, start: at, end: at + length }
    at += length
    return word
  })
}
