import { nanoid } from 'nanoid'
import type { Edit } from '@/core/lesson/edits'
import { phrasesOf, type Phrase } from '@/core/narration/phrases'
import { timelineOf, type Caret, type LessonState } from '../lesson/lessonStore'
import { passagesOf, speechIn } from './usePhrases'

/** What the keys do with the caret: pure functions of the page's state. */

export function phrasesOfStep(state: LessonState, step: string): Phrase[] {
  const timeline = timelineOf(state.history.lesson)
  const script = state.history.lesson.steps.find(({ id }) => id === step)?.script ?? ''
  return phrasesOf(passagesOf(timeline, step), script, speechIn(state.analyses))
}

/** One phrase on or back, across steps; null at either end of the lesson. */
export function moveByPhrase(state: LessonState, by: 1 | -1): Caret | null {
  const { steps } = state.history.lesson
  const caret = state.caret
  if (!caret) return steps[0] ? { step: steps[0].id, phrase: 0 } : null
  const phrase = caret.phrase + by
  if (phrase >= 0 && phrase < Math.max(1, phrasesOfStep(state, caret.step).length)) return { ...caret, phrase }
  return moveByStep(state, by, by < 0)
}

export function moveByStep(state: LessonState, by: 1 | -1, toLastPhrase = false): Caret | null {
  const { steps } = state.history.lesson
  const next = steps[steps.findIndex(({ id }) => id === state.caret?.step) + by]
  if (!next) return null
  return { step: next.id, phrase: toLastPhrase ? Math.max(0, phrasesOfStep(state, next.id).length - 1) : 0 }
}

/** The edit by which the next step starts at the caret; a sentence where there is nothing to break. */
export function breakAtCaret(state: LessonState): Edit | string {
  const { caret } = state
  const phrase = caret && phrasesOfStep(state, caret.step)[caret.phrase]
  if (!caret || !phrase) return 'Put the caret between two phrases first: click on the words, or use the arrow keys.'
  if (caret.phrase === 0) return 'The caret stands before the first phrase: the step begins here already.'
  return {
    name: 'breakStep',
    step: caret.step,
    passage: phrase.passage,
    at: phrase.breakAt,
    scriptAt: phrase.scriptFrom,
    newPassage: nanoid(10),
    newStep: nanoid(10),
  }
}

/** Lesson time of the caret: shortly before its phrase, or the step's start. */
export function caretTime(state: LessonState, caret: Caret): number {
  const timeline = timelineOf(state.history.lesson)
  const span = timeline.steps.find(({ step }) => step.id === caret.step)
  if (!span) return 0
  const phrase = phrasesOfStep(state, caret.step)[caret.phrase]
  return phrase && caret.phrase > 0 ? phrase.start : span.start
}
