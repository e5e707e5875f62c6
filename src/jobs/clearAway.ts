import { readdir, rm, stat } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { cleaningOf, voicesOf } from '@/core/lesson/takes'
import { alone } from '@/db/client'
import { filesNeeded, forgetResults, hashesNeeded, lessonsAsTheyAre } from '@/db/references'
import { cleanedKey } from '@/media/cleaning'
import { codedBytes, dataFolder } from '@/media/settings'
import type { MediaStore } from '@/media/store/store'
import { codedFolder, mediaStore, recordingsFolder, speechFolder, uploadsFolder } from './places'

/** What was cleared away, or would be. */
export interface Cleared {
  /** Media that nothing needs any more, of which so many have been so for long enough. */
  media: Amount & { unneeded: number }
  uploads: Amount
  recordings: Amount
  /** Finished files that are in no list any more. */
  exports: Amount
  /** Coded pictures and sentences of synthesised voices, kept only to be quicker. */
  coded: Amount
  speech: Amount
}

export interface Amount {
  count: number
  bytes: number
}

interface Options {
  /** Only says what would go. */
  dryRun?: boolean
  /** How long media must have been without need. */
  graceDays?: number
}

const DAY = 24 * 3600 * 1000 // ms
const USUAL_GRACE = 30
const UNFINISHED_DAYS = 7
const SPEECH_BYTES = 2 * 1024 ** 3

/**
 * Clears away what nothing refers to any more. Null where somebody else is at it. What a kept version of a lesson needs
 * stays, and so does a recording that is not in its lesson, however old.
 */
export function clearAway({ dryRun = false, graceDays = USUAL_GRACE }: Options = {}): Promise<Cleared | null> {
  return alone('clear away', async () => {
    const needed = await filesNeeded()
    return {
      media: await clearMedia(mediaStore(), graceDays, dryRun),
      uploads: await clearFiles(uploadsFolder(), UNFINISHED_DAYS, needed.uploads, dryRun),
      recordings: await clearFiles(recordingsFolder(), UNFINISHED_DAYS, needed.recordings, dryRun),
      exports: await clearFiles(join(dataFolder(), 'exports'), 1, needed.exports, dryRun),
      coded: await clearOldest(codedFolder(), codedBytes(), dryRun),
      speech: await clearOldest(speechFolder(), SPEECH_BYTES, dryRun),
    }
  })
}

async function clearMedia(store: MediaStore, graceDays: number, dryRun: boolean): Promise<Cleared['media']> {
  const needed = await mediaNeeded(graceDays)
  const expired: string[] = []
  let unneeded = 0
  for (const hash of await store.all()) {
    const since = await store.unneededSince(hash)
    if (needed.has(hash)) {
      if (since && !dryRun) await store.markUnneeded(hash, false)
      continue
    }
    unneeded++
    if (!since && !dryRun) await store.markUnneeded(hash, true)
    if (graceDays === 0 || (since && Date.now() - since.getTime() > graceDays * DAY)) expired.push(hash)
  }
  const bytes = await Promise.all(expired.map((hash) => store.bytes(hash)))
  const cleared = { unneeded, count: expired.length, bytes: bytes.reduce((sum, one) => sum + one, 0) }
  if (!dryRun) await removeMedia(store, expired, graceDays)
  return cleared
}

/** Of the cleaned voices those that lessons are set to now are needed. */
async function mediaNeeded(graceDays: number): Promise<Set<string>> {
  const needed = await hashesNeeded(graceDays)
  for await (const lesson of lessonsAsTheyAre()) {
    for (const take of voicesOf(lesson)) {
      const cleaning = cleaningOf(lesson, take)
      if (cleaning) needed.add(cleanedKey(take, cleaning.cleanUp, cleaning.room ? { media: cleaning.room } : null))
    }
  }
  return needed
}

/** Somebody may have brought one in again in this very moment: they are set aside first, and looked for once more. */
async function removeMedia(store: MediaStore, hashes: readonly string[], graceDays: number): Promise<void> {
  if (hashes.length === 0) return
  const aside = await Promise.all(hashes.map(async (hash) => ({ hash, taken: await store.takeOut(hash) })))
  const needed = await mediaNeeded(graceDays)
  const gone = aside.filter(({ hash }) => !needed.has(hash))
  await Promise.all(aside.filter(({ hash }) => needed.has(hash)).map(({ taken }) => taken.putBack()))
  await forgetResults(gone.map(({ hash }) => hash))
  await Promise.all(gone.map(({ taken }) => taken.drop()))
}

interface Found {
  path: string
  bytes: number
  /** ms since 1970 */
  changed: number
}

async function filesIn(folder: string): Promise<Found[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => [])
  const found = await Promise.all(
    entries
      .filter((entry) => entry.isFile())
      .map(async (entry) => {
        const path = join(entry.parentPath, entry.name)
        const there = await stat(path).catch(() => null)
        return there ? [{ path, bytes: there.size, changed: there.mtimeMs }] : []
      }),
  )
  return found.flat()
}

/** Files called by the id of a row that needs them no more, and untouched for so many days. */
async function clearFiles(folder: string, days: number, needed: ReadonlySet<string>, dryRun: boolean): Promise<Amount> {
  const old = (await filesIn(folder)).filter(
    ({ path, changed }) => Date.now() - changed > days * DAY && !needed.has(basename(path).split('.')[0]!),
  )
  return clear(old, dryRun)
}

/** The oldest files of a folder that holds more than it may. */
async function clearOldest(folder: string, most: number, dryRun: boolean): Promise<Amount> {
  const files = (await filesIn(folder)).sort((a, b) => b.changed - a.changed)
  let sum = 0
  return clear(
    files.filter(({ bytes }) => (sum += bytes) > most),
    dryRun,
  )
}

async function clear(files: readonly Found[], dryRun: boolean): Promise<Amount> {
  if (!dryRun) await Promise.all(files.map(({ path }) => rm(path, { force: true })))
  return { count: files.length, bytes: files.reduce((sum, { bytes }) => sum + bytes, 0) }
}
