import type { LessonState } from '../lesson/lessonStore'

/** Whether the last thing that was done has put this step's first words here from the end of the one before. */
export function isJustBroken({ history }: Pick<LessonState, 'history'>, step: string): boolean {
  const last = history.past.at(-1)
  if (last?.name !== 'breakStep') return false
  const { steps } = history.lesson
  // Steps that an edit does not touch stay the same objects.
  const broken = steps.findIndex((one, i) => one !== last.lesson.steps[i])
  return steps[broken + 1]?.id === step
}
