import type { PassageSpan } from '@/core/lesson/layout'
import type { SpeechSegment } from '@/core/measure/speech'
import { joinSegments } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'
import { breakPlaces } from './breaks'

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
 * Where a script is cut when it is spread over phrases of these lengths: at the share of its letters that their time
 * has of the whole, moved to the end of a sentence or clause close by, else to the next space.
 */
export function scriptEdges(script: string, lengths: readonly Seconds[]): number[] {
  const total = lengths.reduce((sum, length) => sum + length, 0)
  const edges = [0]
  let passed = 0
  for (const length of lengths.slice(0, -1)) {
    passed += length
    const wanted = total > 0 ? (script.length * passed) / total : 0
    edges.push(Math.max(edges.at(-1)!, nearestCut(script, wanted)))
  }
  edges.push(script.length)
  return edges
}

function nearestCut(script: string, wanted: number): number {
  let best = { at: Math.round(wanted), score: Infinity }
  for (let i = 1; i < script.length; i++) {
    if (script[i] !== ' ' && script[i] !== '\n') continue
    const mark = script[i - 1]!
    const bonus = /[.!?]/.test(mark) ? 40 : /[,;:–—]/.test(mark) ? 22 : 0
    const score = Math.abs(i - wanted) - bonus
    if (score < best.score) best = { at: i + 1, score }
  }
  return best.score < Infinity ? best.at : script.length
}

/** Spreads the words of a phrase over its time by their letters. */
export function wordsOf(phrase: Phrase, script: string): PlacedWord[] {
  const words = script.slice(phrase.scriptFrom, phrase.scriptTo).split(/\s+/).filter(Boolean)
  const total = words.reduce((sum, word) => sum + word.length + 1, 0)
  let at = phrase.start
  return words.map((text) => {
    const length = ((phrase.end - phrase.start) * (text.length + 1)) / total
    const word = { text, start: at, end: at + length }
    at += length
    return word
  })
}
