import { isDeepStrictEqual } from 'node:util'
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { changedDelivery, deliverySchema, type Delivery, type DeliveryChange } from '@/core/course/delivery'
import type { AnyLessonListing, CourseListing } from '@/core/course/listing'
import { cutText } from '@/core/text'
import {
  changedPronunciations,
  pronunciationSchema,
  type Pronunciation,
  type PronunciationsChange,
} from '@/core/narration/speechVoice'
import { NotThere, Overtaken } from '@/core/userError'
import { say } from '@/messages/say'
import { waitingCounts } from './arrivals'
import { alone, db, transaction, type Transaction } from './client'
import { courses, lessons } from './schema'
import { summaries, type Summarised } from './summaries'

export async function listCourses(): Promise<CourseListing[]> {
  const [all, listed, waiting] = await Promise.all([
    db()
      .select()
      .from(courses)
      .where(isNull(courses.deletedAt))
      .orderBy(sql`${courses.place} asc nulls last`, asc(courses.createdAt)),
    summaries(),
    waitingCounts(),
  ])
  return all.map(({ id, title }) => ({
    id,
    title,
    lessons: listed
      .filter(({ courseId }) => courseId === id)
      .map((lesson) => listingOf(lesson, waiting.get(lesson.id) ?? 0)),
  }))
}

/** One lesson that can't be read is shown as such and keeps nobody from the others. */
function listingOf({ id, savedAt, summary, title }: Summarised, waiting: number): AnyLessonListing {
  if (!summary) return { id, title: cutText(title ?? 'A lesson', 200), unreadable: true }
  const { edition: _, targets: __, ...listing } = summary
  return { id, savedAt: savedAt.toISOString(), waiting, ...listing }
}

export async function createCourse(title: string, id = nanoid(10)): Promise<string> {
  await db().insert(courses).values({ id, title }).onConflictDoNothing()
  return id
}

const isPresent = (id: string) => and(eq(courses.id, id), isNull(courses.deletedAt))

/** Puts courses into this order; what is not named comes after. */
export const orderCourses = (ids: readonly string[]): Promise<void> =>
  transaction(async (tx) => {
    // Rows are always taken in the same order: two who do this at once wait for each other, and neither for ever.
    await tx
      .select({ id: courses.id })
      .from(courses)
      .where(inArray(courses.id, [...ids]))
      .orderBy(courses.id)
      .for('update')
    for (const [place, id] of ids.entries()) await tx.update(courses).set({ place }).where(eq(courses.id, id))
  })

/** The same with the lessons of a course; those of others stay where they are. */
export const orderLessons = (course: string, ids: readonly string[]): Promise<void> =>
  transaction(async (tx) => {
    const own = and(eq(lessons.courseId, course), inArray(lessons.id, [...ids]))
    const rows = await tx.select({ id: lessons.id }).from(lessons).where(own).orderBy(lessons.id).for('update')
    const there = new Set(rows.map(({ id }) => id))
    for (const [place, id] of ids.filter((one) => there.has(one)).entries())
      await tx.update(lessons).set({ place }).where(eq(lessons.id, id))
  })

export async function renameCourse(id: string, title: string): Promise<void> {
  const done = await db().update(courses).set({ title }).where(isPresent(id)).returning({ id: courses.id })
  if (done.length === 0) throw new NotThere(say('server.courseGone'))
}

export async function courseTitle(id: string): Promise<string> {
  const [course] = await db().select().from(courses).where(isPresent(id))
  if (!course) throw new NotThere(say('server.courseGone'))
  return course.title
}

/** The given course, or the first one; where there is none yet, one is made. */
export async function courseOrFirst(id: string | null): Promise<string> {
  if (id) {
    await courseTitle(id)
    return id
  }
  const [first] = await listCourses()
  return first?.id ?? createCourse('My course')
}

export async function pronunciationsOf(id: string): Promise<Pronunciation[]> {
  const [course] = await db().select().from(courses).where(eq(courses.id, id))
  return z.array(pronunciationSchema).parse(course?.pronunciations ?? [])
}

/** What is made of each of its lessons; of what this program does not know, nothing. */
export async function courseDelivery(id: string): Promise<Delivery> {
  await courseTitle(id)
  const [course] = await db().select({ delivery: courses.delivery }).from(courses).where(eq(courses.id, id))
  return deliverySchema.catch([]).parse(course?.delivery)
}

/** Returns what is made of them then, in the order of all outputs. */
export const changeDelivery = (id: string, change: DeliveryChange): Promise<Delivery> =>
  transaction(async (tx) => {
    const course = await heldCourse(id, tx)
    const delivery = changedDelivery(deliverySchema.catch([]).parse(course.delivery), change)
    await tx.update(courses).set({ delivery }).where(eq(courses.id, id))
    return delivery
  })

/** Returns the list as it is then. */
export const changePronunciations = (id: string, change: PronunciationsChange): Promise<Pronunciation[]> =>
  transaction(async (tx) => {
    const course = await heldCourse(id, tx)
    const pronunciations = changedPronunciations(z.array(pronunciationSchema).parse(course.pronunciations), change)
    await tx.update(courses).set({ pronunciations }).where(eq(courses.id, id))
    return pronunciations
  })

/** A course that nobody else changes until the transaction ends; lessons may be put into it. Throws NotThere. */
async function heldCourse(id: string, tx: Transaction): Promise<typeof courses.$inferSelect> {
  const [course] = await tx.select().from(courses).where(isPresent(id)).for('no key update')
  if (!course) throw new NotThere(say('server.courseGone'))
  return course
}

/** As somebody who asks gets it: what is undefined here is not there then. */
const asSent = (value: unknown): unknown => JSON.parse(JSON.stringify(value))

/**
 * Changes what a course says of its lessons, where it still says what whoever changes it has seen (`seen`; undefined: that
 * does not matter). One such change at a time. Throws Overtaken.
 */
export async function changeCourse<V, R>(
  id: string,
  seen: V | undefined,
  now: () => Promise<V>,
  change: (before: V) => Promise<R>,
): Promise<R> {
  const changed = await alone(`course ${id}`, async () => {
    const before = await now()
    if (seen !== undefined && !isDeepStrictEqual(asSent(before), asSent(seen)))
      throw new Overtaken(say('server.overtaken'))
    return { result: await change(before) }
  })
  if (!changed) throw new Overtaken(say('server.overtaken'))
  return changed.result
}
