import type { Edit } from '@/core/lesson/edits'
import { takesHeard } from '@/core/narration/words/heardWords'
import type { StepWord } from '@/core/narration/words/stepWords'
import type { Seconds } from '@/core/units'
import { alignmentOf } from '@/core/narration/words/alignments'
import type { LessonState } from '../lesson/lessonStore'

/** The edit by which a word begins or ends elsewhere; null where nobody has found it in its take yet. */
export function retime(
  { history: { lesson }, alignments }: LessonState,
  step: string,
  word: StepWord,
  edge: 'from' | 'to',
  by: Seconds,
): Edit | null {
  const passage = lesson.steps.find(({ id }) => id === step)?.passages.find(({ id }) => id === word.passage)
  const middle = (word.at.from + word.at.to) / 2
  const takes = takesHeard(lesson).filter((take) => take.media === passage?.media)
  for (const take of takes.sort((a, b) => Number(b.step === step) - Number(a.step === step))) {
    if (middle < take.from || middle > take.to) continue
    const found = alignmentOf(lesson, take, alignments)?.words ?? []
    const nearest = [...found]
      .filter(({ text }) => text === word.text)
      .sort((a, b) => Math.abs((a.start + a.end) / 2 - middle) - Math.abs((b.start + b.end) / 2 - middle))[0]
    if (!nearest) continue
    const start = edge === 'from' ? word.at.from + by : word.at.from
    const end = edge === 'to' ? word.at.to + by : word.at.to
    return { name: 'retimeWord', take: take.id, character: nearest.from, start, end }
  }
  return null
}
