import { scriptsFromCaptions } from '@/core/captions/scriptsFromCaptions'
import { readCaptions } from '@/core/formats/readCaptions'
import type { Edit } from '@/core/lesson/edits'
import { layoutLesson } from '@/core/lesson/layout'
import type { LessonStore } from '../lesson/lessonStore'

/** What a file of captions says is what the steps under it say; returns in how many steps that changed. Throws a UserError. */
export function takeCaptions(store: LessonStore, file: string): number {
  const { history, edit } = store.getState()
  const timeline = layoutLesson(history.lesson)
  const scripts = scriptsFromCaptions(timeline, readCaptions(file))
  const edits = timeline.steps.flatMap(({ step }): Edit[] => {
    const script = scripts.get(step.id)
    return script === undefined || script === step.script ? [] : [{ name: 'setScript', step: step.id, script }]
  })
  edit(...edits)
  return edits.length
}
