import type { RecordingDetails } from '@/core/messages/arrival'
import { phrasesOfStep } from '../words/caret'
import type { LessonStore } from '../lesson/lessonStore'

/** The place in a step's voice from which a new take is laid: before phrase number `from`. Null for the step's start. */
export function punchOf(store: LessonStore, step: string, from: number): RecordingDetails['punch'] {
  const phrase = phrasesOfStep(store.getState(), step)[from]
  return phrase && from > 0 ? { passage: phrase.passage, at: phrase.breakAt } : null
}
