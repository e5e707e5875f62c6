import type { z } from 'zod'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { lessonSchema, type Lesson } from './document'
import { LIMITS } from './limits'
import { layoutLesson } from './layout'

const { shape } = lessonSchema
const LISTS = Object.keys(LIMITS.items) as (keyof typeof LIMITS.items)[]
const WORDS = {
  steps: 'edits.steps',
  takes: 'edits.takes',
  marks: 'edits.marks',
  shelf: 'edits.filesOnTheShelf',
  bedCues: 'edits.piecesOfMusic',
  sounds: 'edits.sounds',
  nudges: 'edits.pointsOfTheGainLine',
  captionCorrections: 'edits.correctedCaptions',
} as const

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
    throw new UserError(say('edits.lessonTooLong', { hours: LIMITS.length / 3600 }))
}

function assertList(list: keyof typeof LIMITS.items, items: readonly object[]): void {
  const most = LIMITS.items[list]
  if (items.length > most) throw new UserError(say('edits.lessonHasTooMany', { most, list: say(WORDS[list]) }))
  for (const item of items) {
    if (good.has(item)) continue
    assertFits<unknown>(shape[list].element, item)
    good.add(item)
  }
}

/** The value as its schema has it; a UserError that says what can't be kept where it is otherwise. */
export function assertFits<T>(schema: z.ZodType<T>, value: unknown): T {
  const { success, data, error } = schema.safeParse(value)
  if (!success) throw new UserError(sentenceFor(error.issues[0]!), { cause: error })
  return data
}

function sentenceFor(issue: z.core.$ZodIssue): string {
  const what = issue.path.filter((part) => typeof part === 'string').join(', ')
  if (issue.code === 'too_big' && issue.origin === 'string')
    return say('edits.textTooLong', { what, most: Number(issue.maximum) })
  if (issue.code === 'too_big' && issue.origin === 'array')
    return say('edits.tooMany', { what, most: Number(issue.maximum) })
  return say('edits.cantBeKept', { what: what || say('edits.theWhole'), why: issue.message })
}
