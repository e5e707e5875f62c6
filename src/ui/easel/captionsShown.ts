'use client'

import { useEffect, useState } from 'react'
import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import type { Timeline } from '@/core/lesson/timeline'
import { heardWords } from '@/core/narration/words/alignments'
import { useDesk, useLessonState, useTimeline } from '../lesson/context'

/** Whether captions are shown over the picture: the same for all lessons in this browser, and no part of any document. */
export const useCaptionsShown = create<{ isShown: boolean; toggle: () => void }>()(
  persist((set) => ({ isShown: false, toggle: () => set(({ isShown }) => ({ isShown: !isShown })) }), {
    name: 'yarn-step-captions',
  }),
)

/** The lesson as it is laid out, with its captions where they are shown. They come a moment after an edit. */
export function useShownTimeline(): Timeline {
  const timeline = useTimeline()
  const isShown = useCaptionsShown((state) => state.isShown)
  const { store } = useDesk()
  const [shown, setShown] = useState<{ of: Timeline; timeline: Timeline } | null>(null)
  const alignments = useLessonState((state) => state.alignments)
  useEffect(() => {
    if (!isShown) return
    let isGone = false
    const soon = setTimeout(() => {
      void import('./captioned').then(({ captioned }) => {
        if (isGone) return
        const { history, analyses } = store.getState()
        const heard = heardWords(history.lesson, alignments, analyses)
        setShown({ of: timeline, timeline: captioned(history.lesson, timeline, heard) })
      })
    }, AFTER_EDIT)
    return () => {
      isGone = true
      clearTimeout(soon)
    }
  }, [isShown, timeline, alignments, store])
  return isShown && shown?.of === timeline ? shown.timeline : timeline
}

/** While somebody types, captions are not parted anew with every letter. */
const AFTER_EDIT = 150 // ms
