'use client'

import { useEffect } from 'react'
import type { Found } from '@/core/narration/words/alignments'
import type { Player } from '../player/player'
import type { LessonState, LessonStore } from './lessonStore'

/** After the last change: captions of a long lesson take a moment, and the plan of its sound goes before. */
const WAIT = 800 // ms

/** Has words and captions looked through: once all words are found, since guessed times tell nothing of how fast they are. */
export function useWordFindings(store: LessonStore, player: Player | null): void {
  useEffect(() => {
    if (!player) return
    const sent = new Map<string, Found | null>()
    let isGone = false
    let timer: ReturnType<typeof setTimeout> | undefined
    const look = async () => {
      const { alignments, mix } = store.getState()
      const fresh = [...alignments].filter(([key, found]) => sent.get(key) !== found)
      const wordFindings = await player.findInWords(fresh)
      for (const [key, found] of fresh) sent.set(key, found)
      // What was found in a lesson that has changed meanwhile is looked for again.
      const now = store.getState()
      // While one listens to a take, that is what is planned.
      if (!isGone && now.mix === mix && !now.audition) store.setState({ wordFindings })
    }
    const later = ({ mix, aligning, audition }: LessonState) => {
      clearTimeout(timer)
      if (mix && aligning === 0 && !audition) timer = setTimeout(() => void look().catch(console.error), WAIT)
    }
    later(store.getState())
    const stop = store.subscribe((now, before) => {
      if ((['mix', 'alignments', 'aligning'] as const).some((part) => now[part] !== before[part])) later(now)
    })
    return () => {
      isGone = true
      clearTimeout(timer)
      stop()
    }
  }, [store, player])
}
