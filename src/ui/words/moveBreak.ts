import { nanoid } from 'nanoid'
import { applyEdit, type Edit } from '@/core/lesson/edits'
import { cutBefore } from '@/core/narration/words/cutPlaces'
import { say } from '@/messages/say'
import type { LessonState, WordPlace } from '../lesson/lessonStore'
import { breakAtCaret, wordsOfStep } from './caret'

/**
 * The edits by which a step's words end before another word: one of its own, so that the rest goes to the next step, or
 * one of the next step's, whose first words then come to this one. A sentence where neither is meant.
 */
export function moveBreak(state: LessonState, step: string, to: WordPlace): Edit[] | string {
  if (to.step === step) {
    const edit = breakAtCaret({ ...state, caret: to })
    return typeof edit === 'string' ? edit : [edit]
  }
  const { lesson } = state.history
  const index = lesson.steps.findIndex(({ id }) => id === step)
  const [own, next] = [lesson.steps[index], lesson.steps[index + 1]]
  if (!own || next?.id !== to.step) return say('words.aBreakIsMoved')
  const words = wordsOfStep(state, next.id)
  const place = cutBefore(words, to.word, mediaAnalysis(state, next.id))
  const word = words[to.word]
  const media = next.passages.find(({ id }) => id === place?.passage)?.media
  if (!place || !word || to.word === 0) return say('words.theBreakIsThere')
  const join: Edit = { name: 'joinStep', step: next.id }
  const joined = applyEdit(lesson, join).steps[index]!
  const passage = joined.passages.find((one) => one.media === media && place.at > one.from && place.at <= one.to)
  if (!passage) return say('words.theBreakIsThere')
  const before = own.script.trim() ? own.script.trim().length + 1 : 0
  const leading = next.script.length - next.script.trimStart().length
  const scriptAt = before + word.script.from - leading
  return [
    join,
    {
      name: 'breakStep',
      step,
      passage: passage.id,
      at: place.at,
      scriptAt,
      newPassage: nanoid(10),
      newStep: nanoid(10),
    },
  ]
}

const mediaAnalysis = (state: LessonState, step: string) => (passage: string) => {
  const media = state.history.lesson.steps
    .find(({ id }) => id === step)
    ?.passages.find(({ id }) => id === passage)?.media
  return media ? state.analyses.get(media) : undefined
}
