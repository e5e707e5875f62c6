import { nanoid } from 'nanoid'
import type { Anchor, Lesson, Mark, SoundCue } from '@/core/lesson/document'
import { hears, stepHearing } from '@/core/lesson/marks'
import { say } from '@/messages/say'
import { decimal } from '../format'
import type { LessonState, WordPlace } from '../lesson/lessonStore'
import { wordsOfStep } from './caret'

/** Places in the lesson as an author gives and reads them. */

/** A new mark before the word at the caret, to hang something on; null where it stands in a step without words. */
export function markAtCaret(state: LessonState): Mark | null {
  const { caret } = state
  const word = caret && wordsOfStep(state, caret.step)[caret.word]
  const step = state.history.lesson.steps.find(({ id }) => id === caret?.step)
  const passage = step?.passages.find(({ id }) => id === word?.passage)
  if (!step || !word || !passage) return null
  const isWritten = word.text !== ''
  return {
    id: nanoid(10),
    step: step.id,
    word: isWritten ? { character: word.script.from, side: 'before' } : null,
    place: { media: passage.media, at: Math.max(passage.from, word.at.from) },
    guessed: isWritten && word.confidence === null ? 'place' : null,
  }
}

/** Where something new hangs: on the word at the caret, or on the step; and the mark that is put there for it. */
export function anchorAtCaret(
  state: LessonState,
): { anchor: Exclude<Anchor, { kind: 'sound' }>; marks: Mark[] } | null {
  const mark = markAtCaret(state)
  if (mark) return { anchor: { kind: 'mark', mark: mark.id, offset: 0 }, marks: [mark] }
  return state.caret ? { anchor: { kind: 'step', step: state.caret.step, offset: 0 }, marks: [] } : null
}

/** The word at a mark; null where nobody says it. The word is -1 where it is a place between words. */
export function wordAtMark(state: LessonState, id: string): (WordPlace & { text: string }) | null {
  const { marks, steps } = state.history.lesson
  const mark = marks.find((one) => one.id === id)
  const step = mark?.place && stepHearing(steps, mark.place, mark.step)
  if (!mark?.place || !step) return null
  const { place } = mark
  const words = wordsOfStep(state, step.id)
  const passage = step.passages.find((one) => hears(one, place))
  const byScript = words.findIndex((one) => one.text !== '' && one.script.from === mark.word?.character)
  const word =
    byScript >= 0
      ? byScript
      : words.findIndex((one) => one.passage === passage?.id && one.at.to > place.at && one.at.from <= place.at + 0.05)
  return { step: step.id, word, text: words[word]?.text ?? '' }
}

/** The word at a mark, as far as it is heard in the lesson. */
export function sayMark(state: LessonState, id: string): string | null {
  const word = wordAtMark(state, id)
  if (!word) return null
  return word.text ? `“${word.text}”` : say('words.aPlaceInThe')
}

function sayAnchor(state: LessonState, { anchor }: SoundCue): string {
  const { lesson } = state.history
  switch (anchor.kind) {
    case 'step':
      return stepName(lesson, anchor.step)
    case 'mark':
      return sayMark(state, anchor.mark) ?? say('words.wordsThatAreGone')
    case 'sound':
      return titleOf(lesson, lesson.sounds.find(({ id }) => id === anchor.sound)?.media)
  }
}

/** Where a sound is: on what it hangs, and how far from that. */
export function sayPlace(state: LessonState, cue: SoundCue): string {
  const { offset, kind } = cue.anchor
  const anchor = sayAnchor(state, cue)
  const place = kind === 'step' ? say('words.theStartOf', { step: anchor }) : anchor
  if (Math.abs(offset) < 0.005) return say('words.at', { place })
  return say(offset > 0 ? 'words.after' : 'words.before', { time: decimal(Math.abs(offset)), place })
}

function stepName(lesson: Lesson, step: string): string {
  const index = lesson.steps.findIndex(({ id }) => id === step)
  return index < 0 ? say('words.aStepThatIs') : say('words.step', { number: index + 1 })
}

export const titleOf = (lesson: Lesson, media: string | undefined): string =>
  lesson.shelf.find((item) => item.media === media)?.title ?? say('words.aSoundThatIs')
