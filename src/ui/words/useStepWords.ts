'use client'

import { useMemo } from 'react'
import type { PassageSpan } from '@/core/lesson/timeline'
import type { Step } from '@/core/lesson/document'
import { stepWords, type StepWord } from '@/core/narration/words/stepWords'
import { heardWords } from '@/core/narration/words/alignments'
import { useDesk, useLessonState } from '../lesson/context'

/** The words of a step at their times, computed anew only where something of them has changed. */
export function useStepWords(passages: readonly PassageSpan[], step: Step): StepWord[] {
  const { store } = useDesk()
  const analyses = useLessonState((state) => state.analyses)
  const alignments = useLessonState((state) => state.alignments)
  const takes = useLessonState((state) => state.history.lesson.takes)
  return useMemo(() => {
    const { lesson } = store.getState().history
    return stepWords(passages, step.script, heardWords({ ...lesson, takes }, alignments, analyses))
  }, [store, passages, step.script, takes, alignments, analyses])
}
