'use client'

import { useEffect } from 'react'
import { mediaOf } from '@/core/lesson/document'
import type { Player } from '../player/player'
import { fetchAnalysis } from '../arrival'
import type { LessonState, LessonStore } from './lessonStore'
import { soundingLesson } from './useCleaning'

/** Has the mix planned anew whenever the lesson changes; of changes in quick succession the last one counts. */
export function useMix(store: LessonStore, player: Player | null): void {
  useEffect(() => {
    if (!player) return
    let busy = false
    let again = false
    const plan = async () => {
      if (busy) {
        again = true
        return
      }
      busy = true
      do {
        again = false
        const state = store.getState()
        const mix = await player.setLesson(
          soundingLesson(state),
          [...state.media.values()],
          state.compared === 'plain' ? 'plain' : 'ridden',
        )
        if (!state.audition) store.setState({ mix })
      } while (again)
      busy = false
    }
    void plan()
    return store.subscribe((now, before) => {
      if (!soundsAlike(now, before)) void plan()
    })
  }, [store, player])
}

/** What decides how the lesson sounds. */
const SOUNDING = ['audition', 'cleanings', 'hearsRaw', 'compared', 'media'] as const
const soundsAlike = (a: LessonState, b: LessonState) =>
  a.history.lesson === b.history.lesson && SOUNDING.every((part) => a[part] === b[part])

/** Loads the analyses of all sounds of the lesson, for drawing them. */
export function useAnalyses(store: LessonStore): void {
  useEffect(() => {
    const asked = new Set<string>()
    const load = () => {
      const { history, media } = store.getState()
      for (const hash of mediaOf(history.lesson)) {
        if (asked.has(hash) || !media.get(hash)?.channels) continue
        asked.add(hash)
        void fetchAnalysis(hash).then((analysis) => {
          store.setState(({ analyses }) => ({ analyses: new Map(analyses).set(hash, analysis) }))
        })
      }
    }
    load()
    return store.subscribe((now, before) => {
      if (now.history.lesson !== before.history.lesson || now.media !== before.media) load()
    })
  }, [store])
}
