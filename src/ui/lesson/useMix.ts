'use client'

import { useEffect } from 'react'
import { mediaOf } from '@/core/lesson/usedMedia'
import { say } from '@/messages/say'
import type { Player } from '../player/player'
import { afterPaint } from '../afterPaint'
import { fetchAnalysis } from '../arrival'
import type { LessonState, LessonStore } from './lessonStore'
import { keepTrying } from './background'
import { setTrouble } from './troubles'
import { cleanedAlike, heardLesson } from './useCleaning'

/** Has the mix planned anew whenever the lesson changes; of changes in quick succession the last one counts. */
export function useMix(store: LessonStore, player: Player | null): void {
  useEffect(() => {
    if (!player) return
    let busy = false
    let again = false
    let isGone = false
    let later: ReturnType<typeof setTimeout> | undefined
    let failed = 0
    const tell = (error: Error | null) => {
      failed = error ? failed + 1 : 0
      const trouble = { what: say('lesson.theSoundOfThe'), again: () => void plan() }
      setTrouble(store, 'plan', error && failed >= SERIOUS ? { ...trouble, why: error.message } : null)
    }
    const plan = async () => {
      again = true
      if (busy) return
      busy = true
      while (again && !isGone) {
        again = false
        // What went wrong once, or could not be had, is tried again: planning never stops for good.
        if (!(await planned(store, player, tell))) {
          clearTimeout(later)
          later = setTimeout(() => void plan(), TRY_AGAIN)
        }
      }
      busy = false
    }
    void plan()
    const soon = afterPaint(() => !isGone && void plan())
    const stop = store.subscribe((now, before) => {
      if (!soundsAlike(now, before)) soon()
    })
    return () => {
      isGone = true
      clearTimeout(later)
      stop()
    }
  }, [store, player])
}

const TRY_AGAIN = 3000 // ms
/** So many failures in a row are more than a hiccup. */
const SERIOUS = 2

/** False where it has to be planned once more. */
async function planned(store: LessonStore, player: Player, tell: (error: Error | null) => void): Promise<boolean> {
  const state = store.getState()
  try {
    const mix = await player.setLesson(heardLesson(state))
    tell(null)
    if (!state.audition) store.setState({ mix })
    return mix.isWhole
  } catch (error) {
    console.error(error)
    tell(error as Error)
    return false
  }
}

/** What decides how the lesson sounds. */
const SOUNDING = ['audition', 'hearsRaw', 'compared', 'media'] as const
const soundsAlike = (a: LessonState, b: LessonState) =>
  a.history.lesson === b.history.lesson && SOUNDING.every((part) => a[part] === b[part]) && cleanedAlike(a, b)

/** Loads the analyses of all sounds of the lesson, for drawing them. */
export function useAnalyses(store: LessonStore): void {
  useEffect(() => {
    const asked = new Set<string>()
    let isGone = false
    const load = () => {
      const { history, media } = store.getState()
      for (const hash of mediaOf(history.lesson)) {
        if (asked.has(hash) || !media.get(hash)?.channels) continue
        asked.add(hash)
        const isWanted = () => !isGone
        const fetched = keepTrying(() => fetchAnalysis(hash), isWanted).then((analysis) => {
          if (analysis) store.setState(({ analyses }) => ({ analyses: new Map(analyses).set(hash, analysis) }))
        })
        fetched.catch((error: Error) => {
          setTrouble(store, `analysis ${hash}`, {
            what: say('lesson.aSoundCouldNot'),
            why: error.message,
            again: () => {
              asked.delete(hash)
              load()
            },
          })
        })
      }
    }
    load()
    const soon = afterPaint(load)
    const stop = store.subscribe((now, before) => {
      if (now.history.lesson !== before.history.lesson || now.media !== before.media) soon()
    })
    return () => {
      isGone = true
      stop()
    }
  }, [store])
}
