'use client'

import { takeSpeech } from '@/core/measure/takeVoice'
import { useMemo } from 'react'
import type { PassageSpan, Timeline } from '@/core/lesson/timeline'
import type { Step } from '@/core/lesson/document'
import type { Analysis } from '@/core/measure/analysis'
import { phrasesOf, type Phrase } from '@/core/narration/words/phrases'

export const speechIn = (analyses: ReadonlyMap<string, Analysis>) => (media: string) => {
  const analysis = analyses.get(media)
  return analysis ? takeSpeech(analysis) : []
}

export const passagesOf = (timeline: Timeline, step: string): PassageSpan[] =>
  timeline.passages.filter((span) => span.step.id === step)

export function usePhrases(
  passages: readonly PassageSpan[],
  step: Step,
  analyses: ReadonlyMap<string, Analysis>,
): Phrase[] {
  return useMemo(() => phrasesOf(passages, step.script, speechIn(analyses)), [passages, step.script, analyses])
}
