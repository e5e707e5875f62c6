import type { CourseLesson } from '@/core/course/lessonBalance'
import { COURSE_TARGETS, courseTargetsSchema } from '@/core/course/courseTargets'
import type { Lesson } from '@/core/lesson/document'
import { applyEdit } from '@/core/lesson/edits'
import { courseTitle } from '@/db/courses'
import { changeLesson } from '@/db/followers'
import { summaries } from '@/db/summaries'
import { readJson, route } from '../../../answer'

/** The lessons of a course and what they are set to; how each sounds is a task (`balance`), since it has to be planned. */
export const GET = route<{ id: string }>(async (_, { id }) => {
  await courseTitle(id)
  const all = await summaries(id)
  return Response.json(
    all.flatMap(({ id: lesson, revision, summary }): CourseLesson[] =>
      summary ? [{ id: lesson, title: summary.title, revision, targets: summary.targets }] : [],
    ),
  )
})

/** Gives all lessons of a course the same targets; each is saved as a new revision. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  await courseTitle(id)
  const targets = await readJson(request, courseTargetsSchema)
  let changed = 0
  for (const { id: lesson, summary } of await summaries(id)) {
    // Of the others not even the document is read.
    if (!summary || COURSE_TARGETS.every((target) => summary.targets[target] === targets[target])) continue
    const withTargets = (saved: Lesson) =>
      COURSE_TARGETS.reduce(
        (now, target) => applyEdit(now, { name: 'setTarget', target, value: targets[target] }),
        saved,
      )
    if (await changeLesson(lesson, withTargets)) changed++
  }
  return Response.json({ changed })
})
