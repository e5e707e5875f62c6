import { and, eq, isNull } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Lesson } from '@/core/lesson/document'
import { assertStorable } from '@/core/lesson/storable'
import { documentOf } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { db } from './client'
import { isReadable, loadLesson, saveLesson } from './lessons'
import { lessons } from './schema'

const MOST_TRIES = 10

/**
 * Changes the lessons of a course, each by a save of its own, which can be undone in it. `change` gives back the very same
 * lesson where it stays as it is. Returns how many were changed. Throws a UserError, and changes none, where one of them
 * could not be kept as it would be.
 */
export async function changeLessons(
  course: string,
  change: (lesson: Lesson) => Lesson,
  except: string | null = null,
): Promise<number> {
  const present = and(eq(lessons.courseId, course), isNull(lessons.deletedAt))
  const rows = await db().select({ id: lessons.id, document: lessons.document }).from(lessons).where(present)
  const ids = rows.filter(({ id, document }) => id !== except && isReadable(document)).map(({ id }) => id)
  for (const { id, document } of rows) if (ids.includes(id)) assertChangeable(readLesson(document), change)
  let changed = 0
  for (const id of ids) if (await changeLesson(id, change)) changed++
  return changed
}

function assertChangeable(lesson: Lesson, change: (lesson: Lesson) => Lesson): void {
  try {
    const next = change(lesson)
    if (next !== lesson) assertStorable(next)
  } catch (error) {
    if (!(error instanceof UserError)) throw error
    throw new UserError(`“${lesson.title}” can't follow, so no lesson was changed. ${error.message}`, { cause: error })
  }
}

/** Again where somebody saved in between. False where it stays as it is. */
export async function changeLesson(id: string, change: (lesson: Lesson) => Lesson): Promise<boolean> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const { revision, lesson } = await loadLesson(id)
    const next = change(lesson)
    if (next === lesson) return false
    if ((await saveLesson(id, revision, documentOf(next), nanoid())).saved) return true
  }
  throw new UserError(say('server.lessonsBusy'))
}
