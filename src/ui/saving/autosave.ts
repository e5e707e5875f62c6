import { nanoid } from 'nanoid'
import type { Lesson } from '@/core/lesson/document'
import type { Side } from '@/core/lesson/merge'
import { documentOf, tell } from '@/core/lesson/telling'
import { call, Refusal } from '../api'
import type { LessonStore } from '../lesson/lessonStore'
import { within } from '../within'
import { openDraftKeeper, type Kept } from './draftKeeper'
import { browserDrafts, type Draft, type Drafts } from './drafts'
import type { Meeting } from './meeting'
import { happen, isSaved, type Happening, type Order, type Saving } from './saving'
import { askRevision, askStored } from './storedLesson'
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

/** A long lesson on a slow line; it is sent whole (ms). */
const SAVE_LIMIT = 300_000
/** Changes that follow each other without a break are saved all the same (ms). */
const LONGEST_WAIT = 3000
const KEEP = 100
const KEEP_AGAIN = 3000
/** A browser's storage that does not answer keeps nobody from saving. */
const KEEP_LIMIT = 1000

export interface Autosave {
  state(): SaveState
  /** How many changes there were, what is typed included, and whether all of them are saved: as it is at this moment. */
  count(): { changes: number; areSaved: boolean }
  subscribe(listener: () => void): () => void
  /** Ends once all that has been changed by then, or later, is saved; false where it was given up. */
  whenSaved(): Promise<boolean>
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
  drafts?: Drafts
}

/**
 * Saves a lesson after each change. What another window saved in between is put together with it; where both changed the
 * same thing it stops and asks. Nothing is overwritten. What is to be done when stands in `saving.ts`.
 */
export function createAutosave(
  id: string,
  { store, typing, onUnited, drafts = browserDrafts }: Surroundings,
  before: SavedBefore,
): Autosave {
  const present = () => store.getState().history.lesson
  let now: Saving<Lesson> = {
    present: present(),
    isTyping: typing.isTyping(),
    saved: before.lesson,
    base: before.revision,
    saves: before.draft?.saves ?? [],
    attempt: null,
    isAsking: false,
    trouble: before.conflict && { kind: 'conflict' },
  }
  let conflict: { savedAt: string; meeting: Meeting | null } = { savedAt: '', meeting: null, ...before.conflict }
  let changes = 0
  let isGivenUp = false
  /** As it is told outside; the same object until something changes. */
  let said = stateOf(now, conflict)
  let timer: ReturnType<typeof setTimeout> | undefined
  /** Since when something is waited for (ms). */
  let waiting: number | null = null
  let keeping: ReturnType<typeof setTimeout> | undefined
  /** What was ordered and is being done. */
  let working: Promise<void> = Promise.resolve()
  const listeners = new Set<() => void>()
  const key = before.draft?.key ?? nanoid()
  const found: Kept<Lesson> = before.draft && { lesson: before.draft.lesson, saves: now.saves }
  const keeper = openDraftKeeper(found, (wanted) => (wanted ? drafts.keep(draftNow()) : drafts.drop(key)))

  function on(what: Happening<Lesson>): void {
    const { now: next, order } = happen(now, what)
    now = next
    said = stateOf(now, conflict)
    if (order) follow(order)
    listeners.forEach((listener) => listener())
  }

  function follow(order: Order<Lesson>): void {
    if (order.kind === 'wait') return waitFor(order.for)
    waiting = null
    working = order.kind === 'send' ? send(order) : look()
  }

  function waitFor(wait: number): void {
    waiting ??= Date.now()
    clearTimeout(timer)
    timer = setTimeout(flush, Math.max(0, Math.min(wait, waiting + LONGEST_WAIT - Date.now())))
  }

  function flush(): void {
    clearTimeout(timer)
    typing.commitAll()
    on({ kind: 'due', save: nanoid() })
  }

  async function send({ base, sent }: Extract<Order<Lesson>, { kind: 'send' }>): Promise<void> {
    // Kept before it is sent: who finds the draft must know which saves may have been done.
    const isKept = await within(KEEP_LIMIT, keep()).catch(() => false)
    await answered(isKept, async () => {
      const body = { base, save: sent.save, lesson: documentOf(sent.lesson) }
      const answer = await call<SaveAnswer>(`/api/lessons/${id}`, { method: 'PUT', body, limit: SAVE_LIMIT })
      if (!answer.saved) return on({ kind: 'overtaken' })
      on({ kind: 'taken', revision: answer.revision })
      void keep()
    })
  }

  /** Somebody else was quicker. */
  function look(): Promise<void> {
    return answered(keeper.isKept(wanted()), async () => {
      // Putting together is rarely needed: it comes when it is.
      const [stored, { meetingOf }] = await Promise.all([askStored(id, now.saves), import('./meeting')])
      const own = stored.done && (await askRevision(id, stored.done))
      typing.commitAll()
      if (stored.done && own)
        return on({ kind: 'ownSaveFound', revision: stored.done, lesson: tell(own, present().language) })
      const { savedAt } = stored
      const meeting = meetingOf(now.saved, stored)
      const clashes = meeting?.clashes(present()) ?? null
      if (meeting && clashes?.length === 0) return unite(meeting, new Map())
      conflict = { savedAt, meeting: clashes && meeting }
      on({ kind: 'clashed' })
    })
  }

  async function answered(isKept: boolean, ask: () => Promise<void>): Promise<void> {
    try {
      await ask()
    } catch (error) {
      if (error instanceof Refusal) on({ kind: 'refused', reason: error.message })
      else on({ kind: 'unanswered', at: Date.now(), isKept })
    }
  }

  function unite(meeting: Meeting, chosen: ReadonlyMap<string, Side>): void {
    store.getState().addMedia(meeting.media)
    store.getState().rebase((lesson) => meeting.merge(lesson, chosen))
    on({ kind: 'united', revision: meeting.revision, theirs: meeting.theirs, present: present() })
    onUnited()
  }

  /** What this browser is to keep; what was taken back before it was saved must not come back from there either. */
  const wanted = (): Kept<Lesson> =>
    now.present === now.saved && now.attempt === null ? null : { lesson: now.present, saves: now.saves }

  function draftNow(): Draft {
    const media = [...store.getState().media.values()]
    const { base, saves } = now
    return { key, lessonId: id, base, saves: [...saves], lesson: documentOf(present()), media, at: Date.now() }
  }

  async function keep(): Promise<boolean> {
    clearTimeout(keeping)
    const isKept = await keeper.keep(wanted())
    if (!isKept && keeper.hasFailed()) keepIn(KEEP_AGAIN)
    return isKept
  }

  function keepIn(wait: number): void {
    clearTimeout(keeping)
    keeping = setTimeout(() => void keep(), wait)
  }

  function onChange(what: Happening<Lesson>): void {
    changes++
    keepIn(KEEP)
    on(what)
  }

  /** The page may be gone in a moment: what can't be saved by then is kept. */
  function onLeave(event: Event): void {
    typing.commitAll()
    // Also where there is nothing to keep any more: what was kept before may still be there, and must not come back.
    const isKept = keeper.isKept(wanted()) || drafts.park(draftNow()) || wanted() === null
    void keep()
    flush()
    if (!isKept && event.type === 'beforeunload') event.preventDefault()
  }

  /** Sends what is left; what can't be sent stays in this browser. */
  async function finish(): Promise<void> {
    await keep()
    for (let tries = 0; tries < 3 && !isSaved(now) && now.trouble === null; tries++) {
      flush()
      await working
    }
    await keep()
  }

  return {
    state: () => said,
    count: () => ({ changes, areSaved: isSaved(now) }),
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    whenSaved: () =>
      new Promise((resolve) => {
        const look = () => {
          if (!isSaved(now)) return
          listeners.delete(look)
          resolve(!isGivenUp)
        }
        listeners.add(look)
        look()
      }),
    start() {
      const release = drafts.hold(key)
      const stops = [
        store.subscribe(({ history: { lesson } }, { history }) => {
          if (lesson !== history.lesson && lesson !== now.present) onChange({ kind: 'changed', lesson })
        }),
        typing.subscribe(() => onChange({ kind: 'typing', isTyping: typing.isTyping() })),
      ]
      const events = ['beforeunload', 'pagehide'] as const
      for (const event of events) window.addEventListener(event, onLeave)
      const retry = () => now.trouble?.kind === 'offline' && flush()
      window.addEventListener('online', retry)
      if (now.present !== now.saved) onChange({ kind: 'changed', lesson: present() })
      return () => {
        typing.commitAll()
        stops.forEach((stop) => stop())
        for (const event of events) window.removeEventListener(event, onLeave)
        window.removeEventListener('online', retry)
        const last = finish().finally(() => {
          clearTimeout(timer)
          clearTimeout(keeping)
          release()
          leaving.delete(id)
        })
        leaving.set(id, last)
      }
    },
    async giveUp() {
      isGivenUp = true
      on({ kind: 'givenUp' })
      await keep()
    },
    unite,
  }
}

function stateOf(now: Saving<Lesson>, conflict: { savedAt: string; meeting: Meeting | null }): SaveState {
  const { trouble } = now
  switch (trouble?.kind) {
    case 'conflict':
      return { state: 'conflict', ...conflict }
    case 'offline':
      return { state: 'offline', since: trouble.since, isKept: trouble.isKept }
    case 'refused':
      return { state: 'refused', reason: trouble.reason }
    case undefined:
      return { state: isSaved(now) ? 'saved' : now.isAsking ? 'saving' : 'changed' }
  }
}
