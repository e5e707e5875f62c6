import type { LessonExports } from '@/core/course/lessonExports'
import { courseTitle } from '@/db/courses'
import { exportsOfLesson } from '@/db/jobs'
import { summaries } from '@/db/summaries'
import { route } from '../../../answer'

/** The lessons of a course with what was made of them and what is in the making. */
export const GET = route<{ id: string }>(async (_, { id }) => {
  await courseTitle(id)
  const all = await summaries(id)
  return Response.json(
    await Promise.all(
      all.flatMap(({ id: lesson, revision, summary }) =>
        summary
          ? [
              exportsOfLesson(lesson, revision).then((exports): LessonExports => ({
                id: lesson,
                title: summary.title,
                exports,
              })),
            ]
          : [],
      ),
    ),
  )
})
