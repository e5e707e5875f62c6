'use client'

import { useEffect } from 'react'
import { settleMarks } from '@/core/narration/words/settleMarks'
import { stepWords, type StepWord } from '@/core/narration/words/stepWords'
import { heardWords } from '@/core/narration/words/alignments'
import { timelineOf, type LessonState, type LessonStore } from './lessonStore'

/** Puts marks whose words had to be guessed where they are said, as soon as the words of their takes have been found. */
export function useSettling(store: LessonStore): void {
  useEffect(() => {
    const look = () => {
      const state = store.getState()
      if (!state.history.lesson.marks.some(({ guessed }) => guessed)) return
      const marks = settleMarks(state.history.lesson, (step) => wordsFound(state, step))
      if (marks.length > 0) state.settle({ name: 'placeMarks', marks })
    }
    look()
    return store.subscribe((now, before) => {
      const isSame = now.history.lesson === before.history.lesson && now.alignments === before.alignments
      if (!isSame) look()
    })
  }, [store])
}

/** The words of a step, once they have been looked for in all that is heard in it. */
function wordsFound({ history: { lesson }, alignments, analyses }: LessonState, step: string): StepWord[] | null {
  const spans = timelineOf(lesson).passages.filter((span) => span.step.id === step)
  const script = lesson.steps.find(({ id }) => id === step)?.script ?? ''
  const heard = heardWords(lesson, alignments, analyses)
  const isFound = spans.length > 0 && spans.every((span) => heard.wordsOf(span) !== null)
  return isFound ? stepWords(spans, script, heard) : null
}
