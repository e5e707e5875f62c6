import { documentSchema, type Lesson, type LessonDocument } from './document'
import { assertFits, assertStorable } from './storable'
import { documentOf, tell } from './telling'
import { upgraded } from './upgrade'

/** What came from outside as a document, of this format or an older one. Throws a UserError where it can't be stored. */
export function toStorable(json: unknown): LessonDocument {
  const document = assertFits(documentSchema, upgraded(json))
  for (const language of Object.keys(document.narrations)) assertStorable(tell(document, language))
  return documentOf(tell(document))
}

/** The same for a lesson, in the language it is told in. */
export const storableLesson = (lesson: Lesson): Lesson => tell(toStorable(documentOf(lesson)), lesson.language)
