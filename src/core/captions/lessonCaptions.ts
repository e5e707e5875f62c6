import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { stepWords, type HeardWords } from '@/core/narration/words/stepWords'
import { makeCaptions, USUAL_RULES, type Caption, type SaidWord } from './captions'

/** All written words of a lesson as they are said, in order. */
export function saidWords({ steps, passages }: Timeline, heard: HeardWords): SaidWord[] {
  return steps.flatMap(({ step, end }) => {
    const spans = passages.filter((span) => span.step === step)
    if (spans.length === 0) return []
    return stepWords(spans, step.script, heard)
      .filter((word) => word.text !== '' && word.start < end)
      .map(({ text, start, end: until }) => ({ text, start, end: Math.min(until, end), step: step.id }))
  })
}

export const lessonCaptions = (lesson: Lesson, timeline: Timeline, heard: HeardWords): Caption[] =>
  makeCaptions(
    saidWords(timeline, heard),
    timeline.pictures.map(({ start }) => start),
    lesson.language,
    { ...USUAL_RULES, apart: 2 / timeline.frame.rate },
  )
