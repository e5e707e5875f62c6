import { readdir, rm, stat } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { cleaningOf, voicesOf } from '@/core/lesson/takes'
import { forgetBrokenOff } from '@/db/arrivals'
import {
  assetNames,
  assetsBeyond,
  assetsOfLostMedia,
  forgetAssets,
  markUnneeded,
  MEDIA,
  noteAssets,
  unneededSince,
} from '@/db/assets'
import { alone } from '@/db/client'
import { forgetDeleted } from '@/db/deleted'
import { forgetOldJobs } from '@/db/jobs'
import { filesNeeded, forgetResults, hashesNeeded, lessonsAsTheyAre } from '@/db/references'
import { cleanedKey } from '@/media/cleaning'
import { cacheBytes, codedBytes } from '@/media/settings'
import { ASSET_KINDS } from '@/media/store/assets'
import type { StoredMedia } from '@/media/store/store'
import { assetsNoted } from './noteAsset'
import { cacheFolder, mediaStore, objects, recordingsFolder, uploadsFolder } from './places'

/** What was cleared away, or would be. */
export interface Cleared {
  /** Media that nothing needs any more, of which so many have been so for long enough. */
  media: Amount & { unneeded: number }
  uploads: Amount
  recordings: Amount
  /** Finished files that are in no list any more. */
  exports: Amount
  /** Coded pictures and mixes, sentences of synthesised voices, and words found in takes: kept only to be quicker. */
  coded: Amount
  speech: Amount
  alignments: Amount
  /** Rows of jobs that ended long ago. */
  jobs: { count: number }
  /** Lessons and courses that were deleted a month ago. */
  deleted: { count: number }
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
const ALIGNMENT_BYTES = 1024 ** 3

/**
 * Clears away what nothing refers to any more. Null where somebody else is at it. What a kept version of a lesson needs
 * stays, and so does a recording that is not in its lesson, however old.
 */
export async function clearAway({ dryRun = false, graceDays = USUAL_GRACE }: Options = {}): Promise<Cleared | null> {
  const needed = await filesNeeded()
  // Each machine its own.
  const [uploads, recordings] = [
    await clearFiles(uploadsFolder(), UNFINISHED_DAYS, needed.uploads, dryRun),
    await clearFiles(recordingsFolder(), UNFINISHED_DAYS, needed.recordings, dryRun),
  ]
  if (!dryRun) {
    await forgetBrokenOff(UNFINISHED_DAYS)
    await clearCache()
  }
  return alone('clear away', async () => {
    const deleted = { count: await forgetDeleted(dryRun) }
    const stock = await takeStock()
    const media = await clearMedia(stock, graceDays, dryRun)
    if (!dryRun) await removeAssets(await assetsOfLostMedia(), dryRun)
    const incoming = await clearObjects(
      'incoming/',
      UNFINISHED_DAYS,
      new Set([...needed.uploads, ...needed.recordings]),
      dryRun,
    )
    return {
      media,
      uploads: { count: uploads.count + incoming.count, bytes: uploads.bytes + incoming.bytes },
      recordings,
      exports: await clearObjects('exports/', 1, needed.exports, dryRun),
      coded: await removeAssets(await assetsBeyond(['coded', 'mix'], codedBytes()), dryRun),
      speech: await removeAssets(await assetsBeyond(['speech'], SPEECH_BYTES), dryRun),
      alignments: await removeAssets(await assetsBeyond(['alignment'], ALIGNMENT_BYTES), dryRun),
      jobs: { count: await forgetOldJobs(dryRun) },
      deleted,
    }
  })
}

/** What this machine keeps of a bucket beyond its room, the longest unused first. */
async function clearCache(): Promise<void> {
  const files = (await filesIn(cacheFolder())).sort((a, b) => b.changed - a.changed)
  let sum = 0
  const old = files.filter(({ bytes, changed }) => (sum += bytes) > cacheBytes() && Date.now() - changed > IN_USE)
  await clear(old, false)
}

/** Who has asked for a file's place may still be about to open it. */
const IN_USE = 3600 * 1000 // ms

/**
 * Brings what is written down of the store in line with what is there: what an earlier edition of the program has kept, what
 * could not be written down, what is gone.
 */
async function takeStock(): Promise<Map<string, StoredMedia>> {
  await assetsNoted()
  const known = new Map(
    await Promise.all([MEDIA, ...ASSET_KINDS].map(async (kind) => [kind, await assetNames(kind)] as const)),
  )
  const stock = await mediaStore().stock()
  const found = [...stock].map(([name, { bytes }]) => ({ name, kind: MEDIA, edition: '', sources: [], bytes }))
  await bringInLine(found, known.get(MEDIA)!)
  for (const kind of ASSET_KINDS) {
    const there = []
    for await (const { name, bytes, changed } of objects().list(`${kind}/`))
      there.push({ name, kind, edition: '', sources: [], bytes, usedAt: changed })
    await bringInLine(there, known.get(kind)!)
  }
  return stock
}

/** What was known before the store was looked through, and is not there, is gone. */
async function bringInLine(there: Parameters<typeof noteAssets>[0], known: ReadonlySet<string>): Promise<void> {
  const names = new Set(there.map(({ name }) => name))
  await forgetAssets([...known].filter((name) => !names.has(name)))
  const unknown = there.filter(({ name }) => !known.has(name))
  for (let i = 0; i < unknown.length; i += AT_ONCE) await noteAssets(unknown.slice(i, i + AT_ONCE))
}

const AT_ONCE = 1000

async function clearMedia(
  stock: ReadonlyMap<string, StoredMedia>,
  graceDays: number,
  dryRun: boolean,
): Promise<Cleared['media']> {
  const needed = await mediaNeeded(graceDays)
  if (!dryRun) {
    await markUnneeded(needed)
    // Left by somebody who was killed in the middle of clearing away.
    for (const [hash, { isSetAside }] of stock) if (isSetAside && needed.has(hash)) await mediaStore().putBack(hash)
  }
  const since = await unneededSince()
  const unneeded = [...stock.keys()].filter((hash) => !needed.has(hash))
  const isOver = (date: Date | undefined) => date !== undefined && Date.now() - date.getTime() > graceDays * DAY
  const expired = unneeded.filter((hash) => graceDays === 0 || isOver(since.get(hash)))
  if (!dryRun) await removeMedia(expired, stock, graceDays)
  return { unneeded: unneeded.length, ...amountOf(expired.map((hash) => stock.get(hash)!)) }
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
async function removeMedia(
  hashes: readonly string[],
  stock: ReadonlyMap<string, StoredMedia>,
  graceDays: number,
): Promise<void> {
  if (hashes.length === 0) return
  const store = mediaStore()
  for (const hash of hashes) if (!stock.get(hash)!.isSetAside && (await store.has(hash))) await store.setAside(hash)
  const needed = await mediaNeeded(graceDays)
  for (const hash of hashes) if (needed.has(hash)) await store.putBack(hash)
  const gone = hashes.filter((hash) => !needed.has(hash))
  await forgetResults(gone)
  for (const hash of gone) await store.remove(hash)
  await forgetAssets(gone)
}

async function removeAssets(old: readonly { name: string; bytes: number }[], dryRun: boolean): Promise<Amount> {
  if (!dryRun) {
    for (const { name } of old) await objects().remove(name)
    await forgetAssets(old.map(({ name }) => name))
  }
  return amountOf(old)
}

/** What is stored under the id of a row that needs it no more, and was put there so many days ago. */
async function clearObjects(
  prefix: string,
  days: number,
  needed: ReadonlySet<string>,
  dryRun: boolean,
): Promise<Amount> {
  const old: Amount = { count: 0, bytes: 0 }
  for await (const { name, bytes, changed } of objects().list(prefix)) {
    if (!isOld(name, changed.getTime(), days, needed)) continue
    if (!dryRun) await objects().remove(name)
    old.count++
    old.bytes += bytes
  }
  return old
}

const isOld = (name: string, changed: number, days: number, needed: ReadonlySet<string>): boolean =>
  Date.now() - changed > days * DAY && !needed.has(basename(name).split('.')[0]!)

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
  return clear(
    (await filesIn(folder)).filter(({ path, changed }) => isOld(path, changed, days, needed)),
    dryRun,
  )
}

async function clear(files: readonly Found[], dryRun: boolean): Promise<Amount> {
  if (!dryRun) await Promise.all(files.map(({ path }) => rm(path, { force: true })))
  return amountOf(files)
}

const amountOf = (files: readonly { bytes: number }[]): Amount => ({
  count: files.length,
  bytes: files.reduce((sum, { bytes }) => sum + bytes, 0),
})
