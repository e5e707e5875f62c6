'use client'

import { useEffect } from 'react'
import { mediaOf } from '@/core/lesson/document'
import { readAnalysis } from '@/core/formats/analysis'
import type { Player } from '../player/player'
import type { LessonStore } from './lessonStore'

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
        const { history, media } = store.getState()
        store.setState({ mix: await player.setLesson(history.lesson, [...media.values()]) })
      } while (again)
      busy = false
    }
    void plan()
    return store.subscribe((now, before) => {
      if (now.history.lesson !== before.history.lesson || now.media !== before.media) void plan()
    })
  }, [store, player])
}

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

async function fetchAnalysis(hash: string) {
  const response = await fetch(`/api/media/${hash}/analysis.bin`)
  if (!response.ok) throw new Error(`analysis of ${hash}: ${response.status}`)
  return readAnalysis(new Uint8Array(await response.arrayBuffer()))
}
