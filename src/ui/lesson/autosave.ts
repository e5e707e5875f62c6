import { nanoid } from 'nanoid'
import type { Lesson } from '@/core/lesson/document'
import type { Side } from '@/core/lesson/merge'
import { documentOf, tell } from '@/core/lesson/telling'
import { call, Refusal } from '../api'
import { within } from '../within'
import { dropDraft, holdDraft, keepDraft, parkDraft, type Draft } from './drafts'
import type { LessonStore } from './lessonStore'
import type { Meeting } from './meeting'
import type { StoredLesson } from './storedLesson'
import type { Typing } from './typing'

/** 'saved' is only ever said when the server has confirmed that the lesson is in the database. */
export type SaveState =
  | { state: 'saved' | 'changed' | 'saving' }
  /** No answer since a moment (ms since 1970); what was changed is kept in this browser, unless that failed too. */
  | { state: 'offline'; since: number; isKept: boolean }
  /** The server has looked at the lesson and does not take it. */
  | { state: 'refused'; reason: string }
  /** Another window changed the same things; null where it is not known what both began with. */
  | { state: 'conflict'; savedAt: string; meeting: Meeting | null }

type SaveAnswer = { saved: true; revision: number } | { saved: false; revision: number; savedAt: string }

const WAIT = 400 // ms after the last change
const KEEP = 100
const RETRY = 3000
/** A browser's storage that does not answer keeps nobody from saving. */
const KEEP_LIMIT = 1000

export interface Autosave {
  state(): SaveState
  subscribe(listener: () => void): () => void
  /** Begins to watch the lesson; returns what ends it. */
  start(): () => void
  /** Forgets what is not saved: the author wants the other version. */
  giveUp(): Promise<void>
  /** Puts what is here and what another window stored together, and goes on saving. */
  unite(meeting: Meeting, chosen: ReadonlyMap<string, Side>): void
}

/** Where saving begins: what the server has, and what was kept in this browser beside it. */
export interface SavedBefore {
  lesson: Lesson
  revision: number
  draft: (Pick<Draft, 'key' | 'saves'> & { lesson: Lesson }) | null
  /** When somebody else has changed what the draft is based on. */
  conflict: { savedAt: string } | null
}

/** Lessons that were left while they were being saved; who opens one again waits for that. */
const leaving = new Map<string, Promise<unknown>>()

export const savesOfLeftLessons = (lesson?: string): Promise<unknown> =>
  Promise.allSettled(lesson === undefined ? leaving.values() : [leaving.get(lesson)])

interface Surroundings {
  store: LessonStore
  typing: Typing
  /** What another window stored was added to what is here. */
  onUnited: () => void
}

/**
 * Saves a lesson after each change. What another window saved in between is put together with it; where both changed the
 * same thing it stops and asks. Nothing is overwritten.
 */
export function createAutosave(id: string, { store, typing, onUnited }: Surroundings, before: SavedBefore): Autosave {
  const key = before.draft?.key ?? nanoid()
  let saves: string[] = before.draft?.saves ?? []
  let now: SaveState = before.conflict
    ? { state: 'conflict', savedAt: before.conflict.savedAt, meeting: null }
    : { state: 'saved' }
  let base = before.revision
  let saved = before.lesson
  /** What this browser keeps. */
  let kept: { lesson: Lesson; saves: string[] } | null = before.draft && { lesson: before.draft.lesson, saves }
  /** A save that was sent and not answered: it is sent again as it was, so that it is known where it was done. */
  let attempt: { save: string; lesson: Lesson } | null = null
  let running: Promise<void> | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let keeping: ReturnType<typeof setTimeout> | undefined
  const listeners = new Set<() => void>()

  const present = () => store.getState().history.lesson
  const isSaved = () => present() === saved && attempt === null && !typing.isTyping()

  function say(next: SaveState): void {
    now = next
    listeners.forEach((listener) => listener())
  }

  function later(wait: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void flush(), wait)
  }

  async function keep(): Promise<void> {
    clearTimeout(keeping)
    const lesson = present()
    // What was taken back before it was saved must not come back from the browser either.
    if (lesson === saved && attempt === null) return kept ? forget() : undefined
    if (kept?.lesson === lesson && kept.saves === saves) return
    const written = { lesson, saves }
    await keepDraft(draftNow())
    kept = written
  }

  function draftNow(): Draft {
    const media = [...store.getState().media.values()]
    return { key, lessonId: id, base, saves, lesson: documentOf(present()), media, at: Date.now() }
  }

  /** One save at a time; who asks meanwhile waits for it. */
  function flush(): Promise<void> {
    typing.commitAll()
    running ??= save().finally(() => (running = null))
    return running
  }

  async function save(): Promise<void> {
    if (now.state === 'conflict' || isSaved()) return
    attempt ??= { save: nanoid(), lesson: present() }
    if (!saves.includes(attempt.save)) saves = [...saves, attempt.save].slice(-20)
    if (now.state !== 'offline') say({ state: 'saving' })
    // Kept before it is sent: who finds the draft must know which saves may have been done.
    const isKept = await isDone(within(KEEP_LIMIT, keep()))
    try {
      const body = { base, save: attempt.save, lesson: documentOf(attempt.lesson) }
      await take(await call<SaveAnswer>(`/api/lessons/${id}`, { method: 'PUT', body }), attempt.lesson)
    } catch (error) {
      if (error instanceof Refusal) {
        attempt = null
        say({ state: 'refused', reason: error.message })
        return
      }
      const since = now.state === 'offline' ? now.since : Date.now()
      say({ state: 'offline', since, isKept })
      later(RETRY)
    }
  }

  async function take(answer: SaveAnswer, lesson: Lesson): Promise<void> {
    attempt = null
    if (!answer.saved) return meet()
    base = answer.revision
    saved = lesson
    saves = []
    if (isSaved()) await forget()
    else later(0)
    say({ state: isSaved() ? 'saved' : 'changed' })
  }

  /** Somebody else was quicker. */
  async function meet(): Promise<void> {
    // Putting together is rarely needed: it comes when it is.
    const [stored, { meetingOf }] = await Promise.all([call<StoredLesson>(`/api/lessons/${id}`), import('./meeting')])
    typing.commitAll()
    if (stored.save !== null && saves.includes(stored.save)) return goOnFrom(stored)
    const meeting = meetingOf(saved, stored)
    const clashes = meeting?.clashes(present()) ?? null
    if (meeting && clashes?.length === 0) unite(meeting, new Map())
    else say({ state: 'conflict', savedAt: stored.savedAt, meeting: clashes && meeting })
  }

  /** It was nobody else but a save of the page before, which came late: what is here goes on from that. */
  function goOnFrom({ revision, lesson }: StoredLesson): void {
    base = revision
    saved = tell(lesson, present().language)
    saves = []
    later(0)
  }

  function unite(meeting: Meeting, chosen: ReadonlyMap<string, Side>): void {
    base = meeting.revision
    saved = meeting.theirs
    saves = []
    say({ state: 'changed' })
    store.getState().addMedia(meeting.media)
    store.getState().rebase((lesson) => meeting.merge(lesson, chosen))
    onUnited()
    later(0)
  }

  async function forget(): Promise<void> {
    kept = null
    clearTimeout(keeping)
    await dropDraft(key).catch(() => {})
  }

  function onChange(): void {
    clearTimeout(keeping)
    keeping = setTimeout(() => void keep().catch(() => {}), KEEP)
    if (now.state === 'conflict') return
    if (now.state !== 'offline') say({ state: isSaved() ? 'saved' : 'changed' })
    if (!typing.isTyping()) later(WAIT)
  }

  /** The page may be gone in a moment: what can't be saved by then is kept. */
  function onLeave(event: Event): void {
    typing.commitAll()
    if (isSaved() && !kept) return
    const isKept = kept?.lesson === present() || parkDraft(draftNow())
    void keep().catch(() => {})
    void flush()
    if (!isKept && event.type === 'beforeunload') event.preventDefault()
  }

  return {
    state: () => now,
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    start() {
      const release = holdDraft(key)
      const stops = [
        store.subscribe(({ history }, before) => {
          if (history.lesson !== before.history.lesson) onChange()
        }),
        typing.subscribe(onChange),
      ]
      const events = ['beforeunload', 'pagehide'] as const
      for (const event of events) window.addEventListener(event, onLeave)
      const retry = () => now.state === 'offline' && later(0)
      window.addEventListener('online', retry)
      if (!isSaved()) onChange()
      return () => {
        typing.commitAll()
        stops.forEach((stop) => stop())
        for (const event of events) window.removeEventListener(event, onLeave)
        window.removeEventListener('online', retry)
        const last = keep()
          .catch(() => {})
          .then(flush)
          // A change that came while the last save ran.
          .then(flush)
          .finally(() => {
            clearTimeout(timer)
            release()
            leaving.delete(id)
          })
        leaving.set(id, last)
      }
    },
    giveUp() {
      attempt = null
      saved = present()
      return forget()
    },
    unite,
  }
}

const isDone = (work: Promise<unknown>): Promise<boolean> =>
  work.then(
    () => true,
    () => false,
  )
