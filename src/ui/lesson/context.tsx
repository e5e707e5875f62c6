'use client'

import { createContext, useContext, useMemo, useSyncExternalStore } from 'react'
import { useStore } from 'zustand'
import type { Finding } from '@/core/check/finding'
import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import type { Player } from '../player/player'
import { timelineOf, type LessonState, type LessonStore } from './lessonStore'
import type { Autosave, SaveState } from '../saving/autosave'
import type { Typing } from '../saving/typing'

export interface Desk {
  id: string
  course: { id: string; title: string }
  /** What is done is done here. */
  store: LessonStore
  /** The state as it is shown: the store itself, or a frame behind it (Late.tsx). */
  shown: Pick<LessonStore, 'getState' | 'getInitialState' | 'subscribe'>
  player: Player
  autosave: Autosave
  typing: Typing
  /** Shows a sentence for a while. */
  tell(sentence: string): void
}

export const DeskContext = createContext<Desk | null>(null)

export function useDesk(): Desk {
  const desk = useContext(DeskContext)
  if (!desk) throw new Error('used outside a lesson')
  return desk
}

/** Apart from the rest, since it changes often and few need it. */
export function useSaveState(): SaveState {
  const { subscribe, state } = useDesk().autosave
  return useSyncExternalStore(subscribe, state, state)
}

export const useLessonState = <T,>(pick: (state: LessonState) => T): T => useStore(useDesk().shown, pick)
export const useLesson = (): Lesson => useLessonState((state) => state.history.lesson)
export const useTimeline = (): Timeline => timelineOf(useLesson())

/** What was found in its sound, its pictures, its words and its captions; undefined before it was looked through. */
export function useFindings(): readonly Finding[] | undefined {
  const ofMix = useLessonState(({ mix }) => mix?.findings)
  const ofWords = useLessonState(({ wordFindings }) => wordFindings)
  return useMemo(() => ofMix && [...ofMix, ...ofWords], [ofMix, ofWords])
}
