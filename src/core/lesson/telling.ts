import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import {
  FORMAT_VERSION,
  type Lesson,
  type LessonDocument,
  type Narration,
  type Said,
  type ShownStep,
  type Step,
} from './document'

/** A stored document becomes the lesson it is in one language, and back; nothing is lost on the way. */

/** Throws a UserError where a document has no narration in this language. */
export function tell(document: LessonDocument, language: string = document.language): Lesson {
  const { format: _, narrations, steps, language: mainLanguage, title, ...shared } = document
  const own = narrations[language]
  if (!own) throw new UserError(say('edits.notToldIn', { language, languages: languagesOf(document) }))
  const { said, takes, marks, cleanUp, reading, captionCorrections } = own
  return {
    title,
    steps: steps.map((step) => ({ ...step, ...(said[step.id] ?? NOTHING_SAID) })),
    takes,
    marks,
    cleanUp,
    reading,
    captionCorrections,
    language,
    mainLanguage,
    others: Object.fromEntries(
      Object.keys(narrations)
        .filter((one) => one !== language)
        .sort()
        .map((one) => [one, inOrder(narrations[one]!, steps)]),
    ),
    ...shared,
  }
}

export function documentOf(lesson: Lesson): LessonDocument {
  const {
    title,
    steps,
    takes,
    marks,
    cleanUp,
    reading,
    captionCorrections,
    language,
    mainLanguage,
    others,
    ...shared
  } = lesson
  const said = Object.fromEntries(steps.map(({ id, script, passages }) => [id, { script, passages }]))
  const narrations = { ...others, [language]: { said, takes, marks, cleanUp, reading, captionCorrections } }
  return {
    format: FORMAT_VERSION,
    title,
    steps: steps.map(shownOf),
    narrations: Object.fromEntries(
      Object.keys(narrations)
        .sort()
        .map((one) => [one, inOrder(narrations[one]!, steps)]),
    ),
    language: mainLanguage,
    ...shared,
  }
}

const NOTHING_SAID: Said = { script: '', passages: [] }

const shownOf = ({ script: _, passages: __, ...shown }: Step): ShownStep => shown

/** Steps in their order: a document has one spelling only. */
const inOrder = (narration: Narration, steps: readonly { id: string }[]): Narration => ({
  said: Object.fromEntries(steps.map(({ id }) => [id, narration.said[id] ?? NOTHING_SAID])),
  takes: narration.takes,
  marks: narration.marks,
  cleanUp: narration.cleanUp,
  reading: narration.reading,
  captionCorrections: narration.captionCorrections,
})

const languagesOf = ({ narrations }: LessonDocument): string => Object.keys(narrations).sort().join(', ')
