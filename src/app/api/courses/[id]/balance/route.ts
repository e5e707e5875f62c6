import { balanceOf, COURSE_TARGETS, courseTargetsSchema } from '@/core/lesson/courseBalance'
import { applyEdit } from '@/core/lesson/edits'
import { lessonsOfCourse, saveLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { cleanVoices, loadAnalyses } from '@/media/lessonMedia'
import { readJson, route } from '../../../answer'

/** How each lesson of a course sounds as it is planned now. */
export const GET = route<{ id: string }>(async (_, { id }) => {
  const store = mediaStore()
  const all = []
  for (const { id: lesson, lesson: saved } of await lessonsOfCourse(id)) {
    const sounding = await cleanVoices(saved, store)
    all.push(balanceOf(lesson, sounding, await loadAnalyses(sounding, store)))
  }
  return Response.json(all)
})

/** Gives all lessons of a course the same targets; each is saved as a new revision. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const targets = await readJson(request, courseTargetsSchema)
  let changed = 0
  for (const { id: lesson, revision, lesson: saved } of await lessonsOfCourse(id)) {
    const next = COURSE_TARGETS.reduce(
      (now, target) => applyEdit(now, { name: 'setTarget', target, value: targets[target] }).lesson,
      saved,
    )
    if (next === saved) continue
    if ((await saveLesson(lesson, revision, next)).saved) changed++
  }
  return Response.json({ changed })
})
