'use client'

import { useDeferredValue, useMemo } from 'react'
import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { withCaptions } from '@/core/captions/overPictures'
import type { Timeline } from '@/core/lesson/timeline'
import { useLesson, useLessonState, useTimeline } from '../lesson/context'
import { heardWords } from '../lesson/useAlignments'

/** Whether captions are shown over the picture: the same for all lessons in this browser, and no part of any document. */
export const useCaptionsShown = create<{ isShown: boolean; toggle: () => void }>()(
  persist((set) => ({ isShown: false, toggle: () => set(({ isShown }) => ({ isShown: !isShown })) }), {
    name: 'yarn-step-captions',
  }),
)

/** The lesson as it is laid out, with its captions where they are shown. They may come a moment after an edit. */
export function useShownTimeline(): Timeline {
  const lesson = useLesson()
  const timeline = useTimeline()
  const isShown = useCaptionsShown((state) => state.isShown)
  const alignments = useLessonState((state) => state.alignments)
  const analyses = useLessonState((state) => state.analyses)
  const told = useDeferredValue(
    useMemo(() => ({ lesson, timeline, alignments, analyses }), [lesson, timeline, alignments, analyses]),
  )
  const captions = useMemo(
    () =>
      isShown
        ? lessonCaptions(told.lesson, told.timeline, heardWords(told.lesson, told.alignments, told.analyses))
        : [],
    [isShown, told],
  )
  return useMemo(() => (captions.length > 0 ? withCaptions(timeline, captions) : timeline), [timeline, captions])
}
