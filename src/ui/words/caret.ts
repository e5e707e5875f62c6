import { nanoid } from 'nanoid'
import type { Passage, ShelfItem, Step, Take } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import type { Analysis } from '@/core/measure/analysis'
import { cutBefore } from '@/core/narration/words/cutPlaces'
import { phrasesOf, type Phrase } from '@/core/narration/words/phrases'
import { stepWords, type StepWord } from '@/core/narration/words/stepWords'
import {
  clipOfRange,
  cutsOfRange,
  scriptWith,
  scriptWithout,
  type WordClip,
  type WordRange,
} from '@/core/narration/words/wordRange'
import { heardWords } from '@/core/narration/words/alignments'
import { say } from '@/messages/say'
import { timelineOf, type Caret, type LessonState, type WordPlace } from '../lesson/lessonStore'
import { passagesOf, speechIn } from './usePhrases'

/** What the keys do with the caret: pure functions of the page's state. */

export type CaretUnit = 'word' | 'phrase' | 'sentence'

/** Pauses from this length on part phrases. */
const PHRASE_PAUSE = 0.22

export function wordsOfStep(state: LessonState, step: string): StepWord[] {
  const { lesson } = state.history
  const script = stepOf(state, step)?.script ?? ''
  const heard = heardWords(lesson, state.alignments, state.analyses)
  return stepWords(passagesOf(timelineOf(lesson), step), script, heard)
}

export function phrasesOfStep(state: LessonState, step: string): Phrase[] {
  const timeline = timelineOf(state.history.lesson)
  return phrasesOf(passagesOf(timeline, step), stepOf(state, step)?.script ?? '', speechIn(state.analyses))
}

/** The caret one unit on or back, across steps; null at either end of the lesson. */
export function moveCaret(state: LessonState, by: 1 | -1, unit: CaretUnit = 'word'): Caret | null {
  const { steps } = state.history.lesson
  const caret = state.caret
  if (!caret) return steps[0] ? { step: steps[0].id, word: 0 } : null
  const words = wordsOfStep(state, caret.step)
  for (let word = caret.word + by; word >= 0 && word < Math.max(1, words.length); word += by) {
    if (word === 0 || begins(words, word, unit)) return { step: caret.step, word }
  }
  return moveByStep(state, by, by < 0 ? unit : undefined)
}

function begins(words: readonly StepWord[], index: number, unit: CaretUnit): boolean {
  const [before, word] = [words[index - 1]!, words[index]!]
  if (unit === 'word') return true
  return word.sentence !== before.sentence || (unit === 'phrase' && word.start - before.end >= PHRASE_PAUSE)
}

/** To the step before or after; `toLast` puts the caret before its last word, phrase or sentence. */
export function moveByStep(state: LessonState, by: 1 | -1, toLast?: CaretUnit): Caret | null {
  const { steps } = state.history.lesson
  const next = steps[steps.findIndex(({ id }) => id === state.caret?.step) + by]
  if (!next) return null
  if (!toLast) return { step: next.id, word: 0 }
  const words = wordsOfStep(state, next.id)
  let word = Math.max(0, words.length - 1)
  while (word > 0 && !begins(words, word, toLast)) word--
  return { step: next.id, word }
}

/** The selection grows or shrinks by a word, phrase or sentence, also beyond its step; the anchor stays. */
export function extendCaret(state: LessonState, by: 1 | -1, unit: CaretUnit = 'word'): Caret | null {
  const { caret } = state
  if (!caret) return null
  const anchor = caret.anchor ?? { step: caret.step, word: caret.word }
  const words = wordsOfStep(state, caret.step)
  let word = caret.word + by
  while (word > 0 && word < words.length && !begins(words, word, unit)) word += by
  if (word >= 0 && word <= words.length) return { step: caret.step, word, anchor }
  const { steps } = state.history.lesson
  const next = steps[steps.findIndex(({ id }) => id === caret.step) + by]
  if (!next) return null
  const end = extendCaret(
    { ...state, caret: { step: next.id, word: by > 0 ? 0 : wordCount(state, next.id) } },
    by,
    unit,
  )
  return { step: next.id, word: end?.step === next.id ? end.word : 0, anchor }
}

const wordCount = (state: LessonState, step: string) => wordsOfStep(state, step).length

/** Which words of each step a selection has in it, in the lesson's order; `to` is Infinity where it goes on. */
export function selectionOf(steps: readonly Step[], caret: Caret | null): ReadonlyMap<string, WordRange> {
  const ranges = new Map<string, WordRange>()
  if (!caret?.anchor) return ranges
  const indexOf = (place: WordPlace) => steps.findIndex(({ id }) => id === place.step)
  const [first, last] = [caret, caret.anchor].sort((a, b) => indexOf(a) - indexOf(b) || a.word - b.word) as [
    WordPlace,
    WordPlace,
  ]
  for (const { id } of steps.slice(Math.max(0, indexOf(first)), indexOf(last) + 1)) {
    const range = { from: id === first.step ? first.word : 0, to: id === last.step ? last.word : Infinity }
    if (range.to > range.from) ranges.set(id, range)
  }
  return ranges
}

interface SelectedWords extends WordRange {
  step: Step
  words: StepWord[]
}

/** The selected words, step by step; none where no words are selected. */
export function selectedWords(state: LessonState): SelectedWords[] {
  const { steps } = state.history.lesson
  const ranges = selectionOf(steps, state.caret)
  return steps.flatMap((step) => {
    const range = ranges.get(step.id)
    if (!range) return []
    const words = wordsOfStep(state, step.id)
    const to = Math.min(range.to, words.length)
    return to > range.from ? [{ step, words, from: range.from, to }] : []
  })
}

/** The edit by which the next step starts at the caret; a sentence where there is nothing to break. */
export function breakAtCaret(state: LessonState): Edit | string {
  const { caret } = state
  const words = caret ? wordsOfStep(state, caret.step) : []
  const word = caret && words[caret.word]
  if (!caret || !word) return say('words.putTheCaretBetween')
  if (caret.word === 0) return say('words.theCaretStandsBefore')
  const place = cutBefore(words, caret.word, analysisOf(state, caret.step))!
  return {
    name: 'breakStep',
    step: caret.step,
    passage: place.passage,
    at: Math.max(0, place.at),
    scriptAt: word.script.from,
    newPassage: nanoid(10),
    newStep: nanoid(10),
  }
}

/** How far from the playhead a pause may be to be taken for it: one presses a key a little late. */
const SNAP = 0.7

/** The edit by which the next step starts at a moment of the lesson, or in the pause close by. */
export function breakAtTime(state: LessonState, time: number): Edit | string {
  const span = timelineOf(state.history.lesson).steps.find(({ start, end }) => start <= time && time < end)
  const words = span ? wordsOfStep(state, span.step.id) : []
  if (!span || words.length < 2) return say('words.nothingIsSaidHere')
  let best = 1
  let least = Infinity
  for (let i = 1; i < words.length; i++) {
    const pause = words[i]!.start - words[i - 1]!.end
    const away = Math.abs(words[i]!.start - time)
    const cost = away - (pause >= PHRASE_PAUSE && away < SNAP ? SNAP : 0)
    if (cost < least) [best, least] = [i, cost]
  }
  return breakAtCaret({ ...state, caret: { step: span.step.id, word: best } })
}

/** One edit a step; none where no words are selected. */
export const cutSelected = (state: LessonState): Edit[] =>
  selectedWords(state).map(({ step, words, ...range }) => ({
    name: 'cutWords',
    step: step.id,
    cuts: cutsOfRange(step, words, range, analysisOf(state, step.id), () => nanoid(10)),
    script: scriptWithout(step.script, words, range),
  }))

export function copySelected(state: LessonState): WordClip | null {
  const clips = selectedWords(state).map(({ step, words, ...range }) =>
    clipOfRange(step, words, range, analysisOf(state, step.id)),
  )
  if (clips.length === 0) return null
  return { pieces: clips.flatMap(({ pieces }) => pieces), text: clips.map(({ text }) => text).join(' ') }
}

/** `takes` and `shelf`: what the words come from, if the lesson does not have it yet. */
export function pasteAtCaret(
  state: LessonState,
  clip: WordClip,
  from: { takes: readonly Take[]; shelf: readonly ShelfItem[] },
): Edit | null {
  const { caret } = state
  const step = caret && stepOf(state, caret.step)
  if (!caret || !step) return null
  const words = wordsOfStep(state, caret.step)
  const place = words[caret.word] ? cutBefore(words, caret.word, analysisOf(state, caret.step)) : null
  return {
    name: 'pasteWords',
    step: step.id,
    at: place && { ...place, at: Math.max(0, place.at), newPassage: nanoid(10) },
    pieces: clip.pieces.map((piece): Passage => ({ ...piece, id: nanoid(10) })),
    script: scriptWith(step.script, words, caret.word, clip.text),
    takes: from.takes.map((take) => ({ ...take, id: nanoid(10), step: step.id })),
    shelf: [...from.shelf],
  }
}

/** Silence of so many seconds before a word. */
export function pauseBefore(state: LessonState, step: string, word: number, length: number): Edit | null {
  const place = cutBefore(wordsOfStep(state, step), word, analysisOf(state, step))
  return place && { name: 'insertPause', ...place, at: Math.max(0, place.at), length, newPassage: nanoid(10) }
}

/** Less silence than this between two words can't be heard as a pause, in seconds. */
const LEAST_PAUSE = 0.08

/**
 * The pause before the word at the caret, longer or shorter by so many seconds; a sentence where there is nothing to change.
 * What was put in is shortened first, then what is silent in the take itself.
 */
export function pauseAtCaret(state: LessonState, by: number): Edit | string {
  const { caret } = state
  const words = caret ? wordsOfStep(state, caret.step) : []
  const [before, word] = caret ? [words[caret.word - 1], words[caret.word]] : []
  if (!caret || !word) return say('words.putTheCaretBefore')
  if (by > 0) return pauseBefore(state, caret.step, caret.word, by) ?? say('words.nothingIsSaid')
  const none = say('words.thereIsNoPause')
  const passage = stepOf(state, caret.step)?.passages.find(({ id }) => id === word.passage)
  if (!before || !passage) return none
  if (before.passage !== word.passage) {
    if (passage.pause > 0) return { name: 'setPause', passage: passage.id, length: Math.max(0, passage.pause + by) }
    const lead = Math.min(-by, word.at.from - passage.from - LEAST_PAUSE / 2)
    if (lead > 0.01) return { name: 'trimPassage', ...edges(passage), from: passage.from + lead }
    const earlier = stepOf(state, caret.step)?.passages.find(({ id }) => id === before.passage)
    const tail = earlier ? Math.min(-by, earlier.to - before.at.to - LEAST_PAUSE / 2) : 0
    return earlier && tail > 0.01 ? { name: 'trimPassage', ...edges(earlier), to: earlier.to - tail } : none
  }
  const cut = Math.min(-by, word.at.from - before.at.to - LEAST_PAUSE)
  if (cut <= 0.01) return none
  const middle = (before.at.to + word.at.from) / 2
  const stretch = { passage: word.passage, from: middle - cut / 2, to: middle + cut / 2, newPassage: nanoid(10) }
  return { name: 'shortenPauses', cuts: [stretch] }
}

const edges = ({ id, from, to }: Passage) => ({ passage: id, from, to })

/** Lesson time of the caret: the start of its word, or of the step. */
export function caretTime(state: LessonState, caret: Caret): number {
  const span = timelineOf(state.history.lesson).steps.find(({ step }) => step.id === caret.step)
  if (!span) return 0
  const words = wordsOfStep(state, caret.step)
  if (caret.word === 0) return span.start
  return words[caret.word]?.start ?? words.at(-1)?.end ?? span.start
}

const stepOf = (state: LessonState, step: string): Step | undefined =>
  state.history.lesson.steps.find(({ id }) => id === step)

const analysisOf =
  (state: LessonState, step: string) =>
  (passage: string): Analysis | undefined => {
    const media = stepOf(state, step)?.passages.find(({ id }) => id === passage)?.media
    return media ? state.analyses.get(media) : undefined
  }
