import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import type { Lesson, Passage, Step, Take } from './document'

/** Parts of a document by their ids; a sentence for the author where one has gone. */

export const stepOf = (lesson: Lesson, id: string): Step => lesson.steps[stepIndex(lesson, id)]!

export function stepIndex(lesson: Lesson, id: string): number {
  const index = lesson.steps.findIndex((step) => step.id === id)
  if (index < 0) throw new UserError(say('edits.stepGone'))
  return index
}

export function takeOf(lesson: Lesson, id: string): Take {
  const take = lesson.takes.find((one) => one.id === id)
  if (!take) throw new UserError(say('edits.takeGone'))
  return take
}

export function passageOf(lesson: Lesson, id: string): { step: Step; index: number; passage: Passage } {
  for (const step of lesson.steps) {
    const index = step.passages.findIndex((passage) => passage.id === id)
    if (index >= 0) return { step, index, passage: step.passages[index]! }
  }
  throw new UserError(say('edits.passageGone'))
}
