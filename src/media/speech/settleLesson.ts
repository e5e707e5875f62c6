import type { Lesson, Take } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { stepHearing } from '@/core/lesson/marks'
import { settleMarks } from '@/core/narration/words/settleMarks'
import { stepWords } from '@/core/narration/words/stepWords'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { heardWords } from './lessonWords'

/**
 * The lesson with its marks where their words are said. Mostly the page has done so; a file that is asked for right after a
 * recording must not wait for it. The very same lesson where nothing was guessed.
 */
export async function withMarksSettled(
  lesson: Lesson,
  store: MediaStore,
  assets: Assets,
  { signal }: { signal?: AbortSignal } = {},
): Promise<Lesson> {
  const steps = stepsToSettle(lesson)
  if (steps.size === 0) return lesson
  const heard = await heardWords(lesson, store, assets, { signal, isWanted: (take) => isHeardIn(lesson, steps, take) })
  const { passages } = layoutLesson(lesson)
  const settled = settleMarks(lesson, (step) => {
    const spans = passages.filter((span) => span.step.id === step)
    if (!steps.has(step) || !spans.every((span) => heard.wordsOf(span) !== null)) return null
    return stepWords(spans, lesson.steps.find(({ id }) => id === step)!.script, heard)
  })
  const now = new Map(settled.map((mark) => [mark.id, mark]))
  return { ...lesson, marks: lesson.marks.map((mark) => now.get(mark.id) ?? mark) }
}

/** Steps in which the place of a mark is only guessed. */
function stepsToSettle({ marks, steps }: Lesson): Set<string> {
  const saying = marks.flatMap((mark) =>
    mark.guessed === 'place' && mark.place ? (stepHearing(steps, mark.place, mark.step)?.id ?? []) : [],
  )
  return new Set(saying)
}

const isHeardIn = ({ steps }: Lesson, ids: ReadonlySet<string>, { media, from, to }: Take): boolean =>
  steps.some(
    ({ id, passages }) =>
      ids.has(id) && passages.some((passage) => passage.media === media && passage.from < to && passage.to > from),
  )
