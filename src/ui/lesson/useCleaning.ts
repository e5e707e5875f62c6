'use client'

import { useEffect } from 'react'
import type { Lesson, MediaHash } from '@/core/lesson/document'
import { cleaningOf, voicesOf, withCleaned } from '@/core/lesson/takes'
import { runTask } from '../tasks'
import type { LessonState, LessonStore } from './lessonStore'

/** How far the cleaning of one take with one setting has come; `media` is the cleaned sound, once there is one. */
export interface Cleaning {
  progress: number
  media: MediaHash | null
  error: string | null
}

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

/** The lesson as it is heard now: what is auditioned, or the lesson with what has been cleaned so far. */
export function soundingLesson(state: LessonState): Lesson {
  const lesson = state.audition ?? compared(state)
  return state.hearsRaw ? lesson : withCleaned(lesson, (media) => cleaningState(state, media)?.media ?? undefined)
}

function compared({ history: { lesson }, compared: way }: LessonState): Lesson {
  return way === null ? lesson : { ...lesson, pocket: { ...lesson.pocket, on: way === 'pocket' } }
}

/** Has every voice of the lesson cleaned as it is set; what is cleaned already is there at once. */
export function useCleaning(store: LessonStore): void {
  useEffect(() => {
    const asked = new Set<string>()
    const look = () => {
      const { history, audition, media } = store.getState()
      for (const voice of [...voicesOf(history.lesson), ...(audition ? voicesOf(audition) : [])]) {
        const key = keyOf(history.lesson, voice)
        if (key === null || asked.has(key) || !media.has(voice)) continue
        asked.add(key)
        void clean(store, key, voice)
      }
    }
    look()
    return store.subscribe((now, before) => {
      const isSame = now.history.lesson === before.history.lesson && now.media === before.media
      if (!isSame || now.audition !== before.audition) look()
    })
  }, [store])
}

async function clean(store: LessonStore, key: string, media: MediaHash): Promise<void> {
  const say = (cleaning: Cleaning) =>
    store.setState(({ cleanings }) => ({ cleanings: new Map(cleanings).set(key, cleaning) }))
  const { cleanUp, room } = cleaningOf(store.getState().history.lesson, media)!
  try {
    const task = { kind: 'clean', media, cleanUp, room } as const
    const { info } = await runTask(task, (progress) => say({ progress, media: null, error: null }))
    store.getState().addMedia([info])
    say({ progress: 1, media: info.hash, error: null })
  } catch (error) {
    say({ progress: 0, media: null, error: (error as Error).message })
  }
}
