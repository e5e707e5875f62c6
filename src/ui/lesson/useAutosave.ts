'use client'

import { useCallback, useEffect, useRef, useState } from 'react'
import type { Lesson } from '@/core/lesson/document'
import { call } from '../api'
import type { LessonStore } from './lessonStore'

/** 'saved' is only ever said when the server has confirmed that the lesson is in the database. */
export type SaveState =
  | { state: 'saved' | 'changed' | 'saving' }
  | { state: 'offline'; reason: string }
  | { state: 'conflict'; savedAt: string }

type SaveAnswer = { saved: true; revision: number } | { saved: false; revision: number; savedAt: string }

const WAIT = 400 // ms after the last change
const RETRY = 3000

/** Saves the lesson after each change. Stops when another window has saved in between; nothing is overwritten. */
export function useAutosave(id: string, store: LessonStore, revision: number): SaveState {
  const [save, setSave] = useState<SaveState>({ state: 'saved' })
  const base = useRef(revision)
  const saved = useRef<Lesson>(store.getState().history.lesson)
  const busy = useRef(false)
  const stopped = useRef(false)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)

  const flush = useCallback(async () => {
    const { lesson } = store.getState().history
    if (busy.current || stopped.current || lesson === saved.current) return
    busy.current = true
    setSave({ state: 'saving' })
    try {
      const answer = await call<SaveAnswer>(`/api/lessons/${id}`, { method: 'PUT', body: { base: base.current, lesson } })
      if (answer.saved) {
        base.current = answer.revision
        saved.current = lesson
        setSave({ state: store.getState().history.lesson === lesson ? 'saved' : 'changed' })
      } else {
        stopped.current = true
        setSave({ state: 'conflict', savedAt: answer.savedAt })
      }
    } catch (error) {
      setSave({ state: 'offline', reason: (error as Error).message })
      timer.current = setTimeout(() => void flush(), RETRY)
    } finally {
      busy.current = false
    }
    if (!stopped.current && store.getState().history.lesson !== saved.current && saved.current === lesson) void flush()
  }, [id, store])

  useEffect(
    () =>
      store.subscribe(({ history }, before) => {
        if (history.lesson === before.history.lesson || stopped.current) return
        setSave((now) => (now.state === 'offline' ? now : { state: 'changed' }))
        clearTimeout(timer.current)
        timer.current = setTimeout(() => void flush(), WAIT)
      }),
    [store, flush],
  )

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (store.getState().history.lesson === saved.current) return
      void flush()
      event.preventDefault()
    }
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [store, flush])

  return save
}
