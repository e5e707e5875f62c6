import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import { holdPageLock, isPageGone } from '../pageLock'

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

interface Drafts extends DBSchema {
  drafts: { key: string; value: Draft; indexes: { lesson: string } }
}

let opened: Promise<IDBPDatabase<Drafts>> | undefined
const database = () => {
  opened ??= openDB<Drafts>('yarn-step-drafts', 1, {
    upgrade: (db) => void db.createObjectStore('drafts', { keyPath: 'key' }).createIndex('lesson', 'lessonId'),
  })
  // A first failure is not the last word.
  opened.catch(() => (opened = undefined))
  return opened
}

const lockOf = (key: string) => `yarn-step-draft-${key}`

/** Says that this page has the draft open; returns what ends that. */
export const holdDraft = (key: string): (() => void) => holdPageLock(lockOf(key))

export async function keepDraft(draft: Draft): Promise<void> {
  await (await database()).put('drafts', draft)
}

export async function dropDraft(key: string): Promise<void> {
  await (await database()).delete('drafts', key)
}

/** The newest draft of a lesson whose page is gone. */
export async function findDraft(lessonId: string): Promise<Draft | null> {
  const all = await (await database()).getAllFromIndex('drafts', 'lesson', lessonId)
  for (const draft of all.sort((a, b) => b.at - a.at)) if (await isPageGone(lockOf(draft.key))) return draft
  return null
}
