'use client'

import { useMemo } from 'react'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { checkCaptions } from '@/core/check/captions'
import { checkScripts } from '@/core/check/scripts'
import type { Finding } from '@/core/check/finding'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { heardWords } from '../lesson/useAlignments'

const NONE: Finding[] = []

/** What is found in words and captions: once all words are, since guessed times tell nothing of how fast they are. */
export function useWordFindings(): Finding[] {
  const lesson = useLesson()
  const timeline = useTimeline()
  const alignments = useLessonState((state) => state.alignments)
  const analyses = useLessonState((state) => state.analyses)
  const isWaiting = useLessonState((state) => state.aligning > 0)
  return useMemo(() => {
    if (isWaiting) return NONE
    const heard = heardWords(lesson, alignments, analyses)
    return [
      ...checkScripts(lesson, timeline, heard),
      ...checkCaptions(lesson, timeline, lessonCaptions(lesson, timeline, heard)),
    ]
  }, [lesson, timeline, alignments, analyses, isWaiting])
}
