'use client'

import { takeSpeech } from '@/core/measure/takeVoice'
import { useEffect } from 'react'
import type { Lesson, Take } from '@/core/lesson/document'
import type { PassageSpan } from '@/core/lesson/timeline'
import { alignInputOf, heardIn, takesHeard, type AlignInput } from '@/core/narration/words/heardWords'
import type { HeardWords } from '@/core/narration/words/stepWords'
import type { Analysis } from '@/core/measure/analysis'
import { runJob } from '../jobs'
import { afterPaint } from '../afterPaint'
import { keepTrying } from './background'
import { keepTroubles, setTrouble } from './troubles'
import type { Alignments, Found } from './derived'
import type { LessonStore } from './lessonStore'

export const alignmentOf = (lesson: Lesson, take: Take, alignments: Alignments): Found | undefined => {
  const input = alignInputOf(lesson, take)
  return (input && alignments.get(keyOf(input))) || undefined
}

export function heardWords(
  lesson: Lesson,
  alignments: Alignments,
  analyses: ReadonlyMap<string, Analysis>,
): HeardWords {
  return {
    wordsOf: (span: PassageSpan) => heardIn(lesson, span, (take) => alignmentOf(lesson, take, alignments)?.words),
    speechOf: (media) => {
      const analysis = analyses.get(media)
      return analysis ? takeSpeech(analysis) : []
    },
  }
}

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
        if (input) wanted.add(keyOf(input))
        if (!input || asked.has(keyOf(input)) || !media.has(take.media)) continue
        asked.add(keyOf(input))
        waiting.push(input)
      }
      keepTroubles(store, 'align', wanted)
      while (working < AT_ONCE && waiting.length > 0) void work()
    }
    const work = async () => {
      working++
      for (let input = waiting.shift(); input && !isGone; input = waiting.shift()) {
        store.setState({ aligning: waiting.length + working })
        const key = keyOf(input)
        const own = input
        const found = await keepTrying(
          () => runJob<'align'>(own),
          () => !isGone,
        ).catch((error: Error) => {
          setTrouble(store, `align ${key}`, {
            what: 'The words of a take could not be found: pictures change at pauses instead.',
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

const keyOf = ({ media, from, to, script, language }: AlignInput) => JSON.stringify([media, from, to, script, language])
