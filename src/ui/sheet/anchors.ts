import type { Anchor, Lesson, Said, SoundCue } from '@/core/lesson/document'
import type { LessonState } from '../lesson/lessonStore'
import { wordsOfStep } from './caret'

/** Places in the lesson as an author gives and reads them. */

/** What is said at the caret; null where it stands in a step without words. */
export function saidAtCaret(state: LessonState): Said | null {
  const { caret } = state
  const word = caret && wordsOfStep(state, caret.step)[caret.word]
  const passage = state.history.lesson.steps
    .find(({ id }) => id === caret?.step)
    ?.passages.find(({ id }) => id === word?.passage)
  return word && passage ? { media: passage.media, at: word.at.from } : null
}

/** Where a new sound hangs: on the word at the caret, or on the step. */
export function anchorAtCaret(state: LessonState): Anchor | null {
  const said = saidAtCaret(state)
  if (said) return { kind: 'said', said, offset: 0 }
  return state.caret ? { kind: 'step', step: state.caret.step, offset: 0 } : null
}

/** The words around a place in a take, as far as they are heard in the lesson. */
export function sayPlace(state: LessonState, said: Said): string | null {
  for (const { id, passages } of state.history.lesson.steps) {
    const passage = passages.find(({ media, from, to }) => media === said.media && said.at >= from && said.at < to)
    if (!passage) continue
    const word = wordsOfStep(state, id).find(
      (one) => one.passage === passage.id && one.at.to > said.at && one.at.from <= said.at + 0.05,
    )
    return word?.text ? `“${word.text}”` : 'a place in the voice'
  }
  return null
}

export function sayAnchor(state: LessonState, { anchor }: SoundCue): string {
  const { lesson } = state.history
  switch (anchor.kind) {
    case 'step':
      return stepName(lesson, anchor.step)
    case 'said':
      return sayPlace(state, anchor.said) ?? 'words that are gone'
    case 'sound':
      return titleOf(lesson, lesson.sounds.find(({ id }) => id === anchor.sound)?.media)
  }
}

function stepName(lesson: Lesson, step: string): string {
  const index = lesson.steps.findIndex(({ id }) => id === step)
  return index < 0 ? 'a step that is gone' : `step ${index + 1}`
}

export const titleOf = (lesson: Lesson, media: string | undefined): string =>
  lesson.shelf.find((item) => item.media === media)?.title ?? 'a sound that is gone'
