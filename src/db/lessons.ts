import { and, desc, eq, inArray, isNull, notInArray, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Lesson } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import { summaryOf } from '@/core/course/listing'
import { documentOf, tell } from '@/core/lesson/telling'
import { expendableVersions } from '@/core/lesson/versions'
import { toStorable } from '@/core/lesson/fromOutside'
import { readLesson } from '@/core/lesson/upgrade'
import { LIMITS } from '@/core/lesson/limits'
import { cutText } from '@/core/text'
import { NotThere, UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { setLessonMedia } from './assets'
import { db, transaction, type Transaction } from './client'
import { revisionsWanted } from './jobs'
import { lessons, revisions } from './schema'

export interface SavedLesson {
  id: string
  courseId: string
  revision: number
  lesson: Lesson
  /** Of the save that led to this revision. */
  save: string | null
  savedAt: Date
}

/** Stores a new lesson, by whatever way it was made. Throws a UserError where it can't be stored. */
export async function createLesson(courseId: string, lesson: Lesson, id = nanoid(10)): Promise<string> {
  await transaction((tx) => insertLesson(tx, courseId, lesson, id))
  return id
}

export async function insertLesson(tx: Transaction, courseId: string, lesson: Lesson, id: string): Promise<void> {
  const document = toStorable(documentOf(lesson))
  await tx.insert(lessons).values({ id, courseId, revision: 1, document, summary: summaryOf(lesson) })
  await tx.insert(revisions).values({ lessonId: id, revision: 1, document })
  await setLessonMedia(tx, id, mediaOf(lesson))
}

/** One that was deleted and may be brought back is not there for anybody. */
const isPresent = (id: string) => and(eq(lessons.id, id), isNull(lessons.deletedAt))

/** A lesson's row as it is; null where there is none. */
export async function findLessonRow(id: string): Promise<typeof lessons.$inferSelect | null> {
  const [row] = await db().select().from(lessons).where(isPresent(id))
  return row ?? null
}

export async function findLesson(id: string): Promise<SavedLesson | null> {
  const row = await findLessonRow(id)
  return row && asSaved(row)
}

function asSaved({ id, courseId, revision, save, savedAt, document }: typeof lessons.$inferSelect): SavedLesson {
  if (!isReadable(document)) throw new UserError(say('server.unreadable'))
  return { id, courseId, revision, save, savedAt, lesson: readLesson(document) }
}

/** Whether a stored document can be opened by this program. */
export function isReadable(document: unknown): boolean {
  try {
    readLesson(document)
    return true
  } catch {
    return false
  }
}

/** As it stands in the document; empty where there is no such lesson. */
export async function lessonTitle(id: string): Promise<string> {
  if (!/^[\w-]{1,40}$/.test(id)) return ''
  const [row] = await db()
    .select({ title: sql<string | null>`${lessons.document}->>'title'` })
    .from(lessons)
    .where(eq(lessons.id, id))
  return row?.title ?? ''
}

/** Throws NotThere where there is no such lesson. */
export async function presentRevision(id: string): Promise<number> {
  const [row] = await db().select({ revision: lessons.revision }).from(lessons).where(isPresent(id))
  if (!row) throw new NotThere(say('server.lessonGone'))
  return row.revision
}

export async function loadLesson(id: string): Promise<SavedLesson> {
  const found = await findLesson(id)
  if (!found) throw new NotThere(say('server.lessonGone'))
  return found
}

/** Whether an id was given to a lesson before, be that deleted or not. */
export async function isTaken(id: string): Promise<boolean> {
  return (await db().select({ id: lessons.id }).from(lessons).where(eq(lessons.id, id))).length > 0
}

/** Another lesson just like this one, in the same course. Returns its id. */
export async function duplicateLesson(id: string): Promise<string> {
  const { courseId, lesson } = await loadLesson(id)
  return createLesson(courseId, { ...lesson, title: cutText(`${lesson.title} (copy)`, LIMITS.nameCharacters) })
}

/** Puts a lesson into another course, after those that are there. */
export async function moveLesson(id: string, course: string): Promise<void> {
  await presentRevision(id)
  await db().update(lessons).set({ courseId: course, place: null }).where(eq(lessons.id, id))
}

/** What came of a save: the new revision, or the one somebody else saved in between. */
export type SaveOutcome = { saved: true; revision: number } | { saved: false; revision: number; savedAt: string }

/**
 * Saves on top of `base`. Nothing is overwritten if another revision has been saved since. A `save` that was done before
 * (its answer was lost, so it comes again) is told as done.
 */
export async function saveLesson(id: string, base: number, json: unknown, save: string): Promise<SaveOutcome> {
  const document = toStorable(json)
  const lesson = tell(document)
  const summary = summaryOf(lesson)
  const outcome = await transaction(async (tx): Promise<SaveOutcome> => {
    const [updated] = await tx
      .update(lessons)
      .set({ document, summary, revision: base + 1, save, savedAt: sql`now()` })
      .where(and(isPresent(id), eq(lessons.revision, base)))
      .returning({ revision: lessons.revision })
    if (updated) {
      await tx.insert(revisions).values({ lessonId: id, revision: updated.revision, document, save })
      await setLessonMedia(tx, id, mediaOf(lesson))
      return { saved: true, revision: updated.revision }
    }
    const [now] = await tx
      .select({ revision: lessons.revision, savedAt: lessons.savedAt, save: lessons.save })
      .from(lessons)
      .where(isPresent(id))
    if (!now) throw new NotThere(say('server.lessonGone'))
    if (now.save === save) return { saved: true, revision: now.revision }
    return { saved: false, revision: now.revision, savedAt: now.savedAt.toISOString() }
  })
  if (outcome.saved && outcome.revision % THIN_EVERY === 0) await thinRevisions(id)
  return outcome
}

/** The newest revision that one of these saves led to; null where none of them was done, or it was thinned out. */
export async function revisionOfSaves(id: string, saves: readonly string[]): Promise<number | null> {
  if (saves.length === 0) return null
  const [row] = await db()
    .select({ revision: revisions.revision })
    .from(revisions)
    .where(and(eq(revisions.lessonId, id), inArray(revisions.save, [...saves])))
    .orderBy(desc(revisions.revision))
    .limit(1)
  return row?.revision ?? null
}

/** Saves. */
const THIN_EVERY = 20

/** Forgets the versions of a lesson that need not be kept; those that something is still to be made of stay. */
export async function thinRevisions(id: string, now = new Date()): Promise<void> {
  const { revision, savedAt, name } = revisions
  const all = await db().select({ revision, savedAt, name }).from(revisions).where(eq(revisions.lessonId, id))
  const gone = expendableVersions(all, now)
  if (gone.length > 0)
    await db()
      .delete(revisions)
      .where(and(eq(revisions.lessonId, id), inArray(revision, gone), notInArray(revision, revisionsWanted(id))))
}

export interface RevisionListing {
  revision: number
  savedAt: string
  name: string | null
}

/** From the newest to the first. */
export async function listRevisions(id: string): Promise<RevisionListing[]> {
  const rows = await db()
    .select({ revision: revisions.revision, savedAt: revisions.savedAt, name: revisions.name })
    .from(revisions)
    .where(eq(revisions.lessonId, id))
    .orderBy(desc(revisions.revision))
  return rows.map(({ revision, savedAt, name }) => ({ revision, savedAt: savedAt.toISOString(), name }))
}

/** Gives a version a name, by which it stays for ever; an empty one takes the name away. */
export async function nameRevision(id: string, revision: number, name: string): Promise<void> {
  const done = await db()
    .update(revisions)
    .set({ name: name.trim() || null })
    .where(and(eq(revisions.lessonId, id), eq(revisions.revision, revision)))
    .returning({ revision: revisions.revision })
  if (done.length === 0) throw new NotThere(say('server.versionGone'))
}

/** `language`: in which it is told; undefined: in its own. */
export async function loadRevision(id: string, revision: number, language?: string): Promise<Lesson> {
  const [row] = await db()
    .select({ document: revisions.document })
    .from(revisions)
    .where(and(eq(revisions.lessonId, id), eq(revisions.revision, revision)))
  if (!row) throw new NotThere(say('server.versionGone'))
  return readLesson(row.document, language)
}
