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

export interface Autosave {
  state(): SaveState
  subscribe(listener: () => void): () => void
  /** Begins to watch the lesson; returns what ends it. */
  start(): () => void
}

/** Saves a lesson after each change. Stops when another window has saved in between; nothing is overwritten. */
export function createAutosave(id: string, store: LessonStore, revision: number): Autosave {
  let now: SaveState = { state: 'saved' }
  let base = revision
  let saved: Lesson = present()
  let busy = false
  let timer: ReturnType<typeof setTimeout> | undefined
  const listeners = new Set<() => void>()

  function present(): Lesson {
    return store.getState().history.lesson
  }

  function say(next: SaveState): void {
    now = next
    listeners.forEach((listener) => listener())
  }

  function later(wait: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void flush(), wait)
  }

  async function flush(): Promise<void> {
    const lesson = present()
    if (busy || now.state === 'conflict' || lesson === saved) return
    busy = true
    if (now.state !== 'offline') say({ state: 'saving' })
    try {
      take(await call<SaveAnswer>(`/api/lessons/${id}`, { method: 'PUT', body: { base, lesson } }), lesson)
    } catch (error) {
      say({ state: 'offline', reason: (error as Error).message })
      later(RETRY)
    } finally {
      busy = false
    }
  }

  function take(answer: SaveAnswer, lesson: Lesson): void {
    if (!answer.saved) return say({ state: 'conflict', savedAt: answer.savedAt })
    base = answer.revision
    saved = lesson
    say({ state: present() === lesson ? 'saved' : 'changed' })
    if (present() !== lesson) later(0)
  }

  function warn(event: BeforeUnloadEvent): void {
    if (present() === saved) return
    void flush()
    event.preventDefault()
  }

  return {
    state: () => now,
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    start() {
      const stop = store.subscribe(({ history }, before) => {
        if (history.lesson === before.history.lesson || now.state === 'conflict') return
        if (now.state !== 'offline') say({ state: present() === saved ? 'saved' : 'changed' })
        later(WAIT)
      })
      window.addEventListener('beforeunload', warn)
      return () => {
        stop()
        clearTimeout(timer)
        void flush()
        window.removeEventListener('beforeunload', warn)
      }
    },
  }
}
