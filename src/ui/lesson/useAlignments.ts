'use client'

import { useEffect } from 'react'
import { alignmentKey } from '@/core/narration/words/alignments'
import { alignInputOf, takesHeard, type AlignInput } from '@/core/narration/words/heardWords'
import { say } from '@/messages/say'
import { runJob } from '../jobs'
import { afterPaint } from '../afterPaint'
import { keepTrying } from './background'
import { keepTroubles, setTrouble } from './troubles'
import type { LessonStore } from './lessonStore'

/** Has the words of all takes that are heard found; what is known already is there at once. */
export function useAlignments(store: LessonStore): void {
  useEffect(() => {
    const asked = new Set<string>()
    const waiting: AlignInput[] = []
    let working = 0
    let isGone = false

    const look = () => {
      const { history, media } = store.getState()
      const wanted = new Set<string>()
      for (const take of takesHeard(history.lesson)) {
        const input = alignInputOf(history.lesson, take)
        if (input) wanted.add(alignmentKey(input))
        if (!input || asked.has(alignmentKey(input)) || !media.has(take.media)) continue
        asked.add(alignmentKey(input))
        waiting.push(input)
      }
      keepTroubles(store, 'align', wanted)
      while (working < AT_ONCE && waiting.length > 0) void work()
    }
    const work = async () => {
      working++
      for (let input = waiting.shift(); input && !isGone; input = waiting.shift()) {
        store.setState({ aligning: waiting.length + working })
        const key = alignmentKey(input)
        const own = input
        const found = await keepTrying(
          () => runJob<'align'>(own),
          () => !isGone,
        ).catch((error: Error) => {
          setTrouble(store, `align ${key}`, {
            what: say('lesson.theWordsOfA'),
            why: error.message,
            again: () => {
              asked.delete(key)
              look()
            },
          })
          return null
        })
        if (isGone) break
        store.setState(({ alignments }) => ({ alignments: new Map(alignments).set(key, found) }))
      }
      working--
      store.setState({ aligning: waiting.length + working })
    }
    look()
    const soon = afterPaint(() => !isGone && look())
    const stop = store.subscribe((now, before) => {
      if (now.history.lesson !== before.history.lesson || now.media !== before.media) soon()
    })
    return () => {
      isGone = true
      stop()
    }
  }, [store])
}

/** While one is computed, the next ones wait in the queue already. */
const AT_ONCE = 4
