import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import { holdPageLock, isPageGone } from '../pageLock'
import { within } from '../within'

/**
 * What has been changed in a lesson and is not saved yet, kept in this browser: it outlives a closed tab, a reload and a
 * server that is away. Each open lesson has a draft of its own; one whose page is gone is taken over by the next visit.
 */
export interface Draft {
  key: string
  lessonId: string
  /** The revision it is based on. */
  base: number
  /** Saves that were sent and may have been done, though no answer came. */
  saves: string[]
  /** A document of the format of its time. */
  lesson: LessonDocument
  /** Of its files: the server may not name them, since its lesson does not have them yet. */
  media: MediaInfo[]
  at: number
}

interface Stored extends DBSchema {
  drafts: { key: string; value: Draft; indexes: { lesson: string } }
}

let opened: Promise<IDBPDatabase<Stored>> | undefined
const database = () => {
  opened ??= openDB<Stored>('yarn-step-drafts', 1, {
    upgrade: (db) => void db.createObjectStore('drafts', { keyPath: 'key' }).createIndex('lesson', 'lessonId'),
    // The browser has closed it by itself, or wants to: the next who needs it opens it again.
    terminated: () => (opened = undefined),
    blocking: (_now, _wanted, event) => {
      opened = undefined
      ;(event.target as IDBDatabase).close()
    },
  })
  // A first failure is not the last word.
  opened.catch(() => (opened = undefined))
  return opened
}

/** Where drafts are kept. */
export interface Drafts {
  /** Says that this page has the draft open; returns what ends that. */
  hold(key: string): () => void
  keep(draft: Draft): Promise<void>
  /** Keeps a draft before this call returns, since the page may be gone right after it; false where there is no room. */
  park(draft: Draft): boolean
  drop(key: string): Promise<void>
  /** The newest draft of a lesson whose page is gone. */
  find(lessonId: string): Promise<Draft | null>
}

const lockOf = (key: string) => `yarn-step-draft-${key}`

/** The database's answers come late where a page is going: a draft is parked here in the same moment. */
const PARKED = 'yarn-step-parked-draft-'

/** How long a page that was left may take to be gone (ms). */
const LEAVING_LIMIT = 3000
/** A browser's storage that does not answer keeps nobody from opening or saving a lesson (ms). */
const LIMIT = 3000

/** In this browser. */
export const browserDrafts: Drafts = {
  hold: (key) => holdPageLock(lockOf(key)),
  keep: keepDraft,
  park: parkDraft,
  drop: dropDraft,
  find: findDraft,
}

async function keepDraft(draft: Draft): Promise<void> {
  await (await database()).put('drafts', draft)
  unpark(draft.key, draft.at)
}

function parkDraft(draft: Draft): boolean {
  try {
    localStorage.setItem(PARKED + draft.key, JSON.stringify(draft))
    return true
  } catch (error) {
    console.error(error)
    return false
  }
}

async function dropDraft(key: string): Promise<void> {
  const asked = Date.now()
  await within(LIMIT, deleteDraft(key))
  unpark(key, asked)
}

/** Only after the database has answered, and only what was parked by then: a newer one waits for its own answer. */
function unpark(key: string, until: number): void {
  const parked = localStorage.getItem(PARKED + key)
  if (parked && (JSON.parse(parked) as Draft).at <= until) localStorage.removeItem(PARKED + key)
}

const deleteDraft = async (key: string): Promise<void> => (await database()).delete('drafts', key)

async function findDraft(lessonId: string): Promise<Draft | null> {
  const parked = parkedDrafts().filter((draft) => draft.lessonId === lessonId)
  const stored = await within(LIMIT, storedDrafts(lessonId)).catch(() => [])
  const all = [
    ...parked.map((draft) => ({ draft, wait: LEAVING_LIMIT })),
    ...stored.map((draft) => ({ draft, wait: 0 })),
  ]
  for (const { draft, wait } of all.sort((a, b) => b.draft.at - a.draft.at))
    if (await isPageGone(lockOf(draft.key), wait)) return draft
  return null
}

const storedDrafts = async (lessonId: string): Promise<Draft[]> =>
  (await database()).getAllFromIndex('drafts', 'lesson', lessonId)

const parkedDrafts = (): Draft[] =>
  Object.entries(localStorage).flatMap(([key, value]) =>
    key.startsWith(PARKED) ? [JSON.parse(value as string) as Draft] : [],
  )
