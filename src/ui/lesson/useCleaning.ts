'use client'

import { useEffect } from 'react'
import type { Lesson, MediaHash } from '@/core/lesson/document'
import { cleaningOf, voicesOf } from '@/core/lesson/takes'
import type { HeardLesson } from '@/workers/protocol'
import { say } from '@/messages/say'
import { afterPaint } from '../afterPaint'
import { runJob } from '../jobs'
import { inTurns, keepTrying } from './background'
import type { Cleaning } from './derived'
import type { LessonState, LessonStore } from './lessonStore'
import { keepTroubles, setTrouble } from './troubles'

const WAITING: Cleaning = { progress: 0, media: null, error: null }

const keyOf = (lesson: Lesson, media: MediaHash): string | null => {
  const cleaning = cleaningOf(lesson, media)
  return cleaning && JSON.stringify([media, cleaning])
}

/** State of a take's cleaning as it is set now; null where nothing is to be cleaned. */
export function cleaningState({ history: { lesson }, cleanings }: LessonState, media: MediaHash): Cleaning | null {
  const key = keyOf(lesson, media)
  return key === null ? null : (cleanings.get(key) ?? WAITING)
}

/** What is heard now: what is auditioned, or the lesson, with what has been cleaned so far. */
export function heardLesson(state: LessonState): HeardLesson {
  const lesson = state.audition ?? compared(state)
  const sounds = [...voicesOf(lesson)].flatMap((take): HeardLesson['sounds'] => {
    const cleaned = state.hearsRaw ? null : cleaningState(state, take)?.media
    return cleaned ? [[take, cleaned]] : []
  })
  return { lesson, media: [...state.media.values()], sounds, way: state.compared === 'plain' ? 'plain' : 'ridden' }
}

function compared({ history: { lesson }, compared: way }: LessonState): Lesson {
  return way === null ? lesson : { ...lesson, pocket: { ...lesson.pocket, on: way === 'pocket' } }
}

/** Has every voice of the lesson cleaned as it is set; what is cleaned already is there at once. */
export function useCleaning(store: LessonStore): void {
  useEffect(() => {
    const asked = new Set<string>()
    const turns = inTurns(AT_ONCE)
    let isGone = false
    const look = () => {
      const { history, audition, media } = store.getState()
      const wanted = new Set<string>()
      for (const voice of [...voicesOf(history.lesson), ...(audition ? voicesOf(audition) : [])]) {
        const key = keyOf(history.lesson, voice)
        if (key !== null) wanted.add(key)
        if (key === null || asked.has(key) || !media.has(voice)) continue
        asked.add(key)
        const again = () => {
          asked.delete(key)
          look()
        }
        turns(() => clean(store, key, voice, () => !isGone, again))
      }
      keepTroubles(store, 'clean', wanted)
    }
    look()
    const soon = afterPaint(() => !isGone && look())
    const stop = store.subscribe((now, before) => {
      const isSame = now.history.lesson === before.history.lesson && now.media === before.media
      if (!isSame || now.audition !== before.audition) soon()
    })
    return () => {
      isGone = true
      stop()
    }
  }, [store])
}

/** While one is computed, the next ones wait in the queue already. */
const AT_ONCE = 4

async function clean(
  store: LessonStore,
  key: string,
  media: MediaHash,
  isWanted: () => boolean,
  again: () => void,
): Promise<void> {
  const tell = (cleaning: Cleaning) =>
    store.setState(({ cleanings }) => ({ cleanings: new Map(cleanings).set(key, cleaning) }))
  const isStillSo = () => isWanted() && keyOf(store.getState().history.lesson, media) === key
  const cleaning = cleaningOf(store.getState().history.lesson, media)
  if (!cleaning || !isStillSo()) return
  const task = { kind: 'clean', media, ...cleaning } as const
  try {
    const done = await keepTrying(
      () => runJob(task, (progress) => tell({ progress, media: null, error: null })),
      isStillSo,
    )
    if (!done) return
    store.getState().addMedia([done.info])
    tell({ progress: 1, media: done.info.hash, error: null })
  } catch (error) {
    const why = (error as Error).message
    tell({ progress: 0, media: null, error: why })
    setTrouble(store, `clean ${key}`, {
      what: say('lesson.aVoiceCouldNot'),
      why,
      again,
    })
  }
}

/** Whether two states sound with the same cleaned voices; how far others have come is not heard. */
export function cleanedAlike(a: LessonState, b: LessonState): boolean {
  if (a.cleanings === b.cleanings) return true
  const done = ({ cleanings }: LessonState) =>
    [...cleanings].flatMap(([key, { media }]) => (media ? [`${key} ${media}`] : [])).join()
  return done(a) === done(b)
}
