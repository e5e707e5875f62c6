import type { z } from 'zod'
import { UserError } from '@/core/userError'
import { documentSchema, lessonSchema, type Lesson, type LessonDocument } from './document'
import { documentOf, tell } from './telling'
import { upgraded } from './upgrade'
import { LIMITS } from './limits'
import { layoutLesson } from './layout'

const { shape } = lessonSchema
const LISTS = Object.keys(LIMITS.items) as (keyof typeof LIMITS.items)[]
const WORDS = {
  steps: 'steps',
  takes: 'takes',
  marks: 'marks',
  shelf: 'files on the shelf',
  bedCues: 'pieces of music',
  sounds: 'sounds',
  nudges: 'points of the gain line',
  captionCorrections: 'corrected captions',
}

/** Items that were found good: an edit makes new ones of what it changes and leaves the rest, so few are looked at again. */
const good = new WeakSet<object>()

/**
 * Throws a UserError where a lesson could not be stored and opened again: something is longer, larger or otherwise than
 * its schema says. Every way to make or store a lesson passes here.
 */
export function assertStorable(lesson: Lesson): void {
  const rest: Record<string, unknown> = { ...lesson }
  for (const list of LISTS) {
    rest[list] = []
    assertList(list, lesson[list])
  }
  assertFits(lessonSchema, rest)
  if (layoutLesson(lesson).length > LIMITS.length)
    throw new UserError(
      `A lesson can be ${LIMITS.length / 3600} hours long, and this would make it longer. Shorten a step, or part the lesson in two.`,
    )
}

/** What came from outside as a document, of this format or an older one. Throws a UserError where it can't be stored. */
export function toStorable(json: unknown): LessonDocument {
  const { success, data, error } = documentSchema.safeParse(upgraded(json))
  if (!success) throw new UserError(sentenceFor(error.issues[0]!), { cause: error })
  for (const language of Object.keys(data.narrations)) assertStorable(tell(data, language))
  return documentOf(tell(data))
}

/** The same for a lesson, in the language it is told in. */
export const storableLesson = (lesson: Lesson): Lesson => tell(toStorable(documentOf(lesson)), lesson.language)

function assertList(list: keyof typeof LIMITS.items, items: readonly object[]): void {
  const most = LIMITS.items[list]
  if (items.length > most)
    throw new UserError(`A lesson can have ${most} ${WORDS[list]}, and this would be more. Part the lesson in two.`)
  for (const item of items) {
    if (good.has(item)) continue
    assertFits(shape[list].element, item)
    good.add(item)
  }
}

function assertFits(schema: z.ZodType, value: unknown): void {
  const { success, error } = schema.safeParse(value)
  if (!success) throw new UserError(sentenceFor(error.issues[0]!), { cause: error })
}

function sentenceFor(issue: z.core.$ZodIssue): string {
  const what = issue.path.filter((part) => typeof part === 'string').join(', ')
  if (issue.code === 'too_big' && issue.origin === 'string')
    return `This text is too long to be kept (${what}): at most ${issue.maximum.toLocaleString('en')} characters. Shorten it, or part it.`
  if (issue.code === 'too_big' && issue.origin === 'array')
    return `These are too many to be kept (${what}): at most ${issue.maximum.toLocaleString('en')}.`
  return `This can't be kept in a lesson (${what || 'the whole'}: ${issue.message}). Nothing was changed.`
}
