import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { CourseHead } from '@/core/course/courseCopy'
import type { Lesson } from '@/core/lesson/document'
import { transaction, db } from './client'
import { courseEnds } from './courseEnds'
import { courseStyle } from './courseStyles'
import { courseDelivery, courseTitle, pronunciationsOf } from './courses'
import { insertLesson } from './lessons'
import { courses, lessons } from './schema'

/** A course as it goes into a copy, and its documents in their order, also those that can't be read here. */
export async function courseForCopy(id: string): Promise<{ head: CourseHead; documents: unknown[] }> {
  const head = {
    title: await courseTitle(id),
    pronunciations: await pronunciationsOf(id),
    style: await courseStyle(id),
    ends: await courseEnds(id),
    delivery: await courseDelivery(id),
  }
  const rows = await db()
    .select({ document: lessons.document })
    .from(lessons)
    .where(and(eq(lessons.courseId, id), isNull(lessons.deletedAt)))
    .orderBy(sql`${lessons.place} asc nulls last`, asc(lessons.createdAt))
  return { head, documents: rows.map(({ document }) => document) }
}

/** Another course, with its lessons in this order: all of it, or nothing, and nothing where it is there already. Returns its id. */
export async function createCourseWith(
  head: CourseHead,
  copied: readonly Lesson[],
  course = nanoid(10),
): Promise<string> {
  await transaction(async (tx) => {
    const made = await tx
      .insert(courses)
      .values({ id: course, ...head })
      .onConflictDoNothing()
      .returning({ id: courses.id })
    if (made.length === 0) return
    for (const [place, lesson] of copied.entries()) {
      const id = nanoid(10)
      await insertLesson(tx, course, lesson, id)
      await tx.update(lessons).set({ place }).where(eq(lessons.id, id))
    }
  })
  return course
}
