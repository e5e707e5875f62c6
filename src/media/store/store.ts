import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdir, open, readdir, readFile, rename, rm, stat, writeFile, type FileHandle } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { readAnalysis } from '@/core/formats/analysis'
import { mediaInfoSchema, type MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import type { SampleSource } from '@/core/mix/renderer'
import { NotThere } from '@/core/userError'
import { deinterleave } from '../ffmpeg'
import { bytesIn, readWhole } from './files'
import { ownName } from './workFolder'

/** Names of what a media folder holds. The sound is interleaved 32-bit float at the house rate. */
export const PARTS = {
  original: 'original',
  info: 'info.json',
  sound: 'sound.f32',
  analysis: 'analysis.bin',
  /** A recording's picture, as every browser plays it. */
  proxy: 'proxy.mp4',
  page: (page: number) => `page-${page}.png`,
  thumbnail: (page: number) => `thumbnail-${page}.webp`,
} as const

/** Where media are made before they are whole. */
export const DRAFTS = '.drafts'

/** Files by the hash of their content, each with what import made of it, in a folder of its own. */
export interface MediaStore {
  path(hash: string, part: string): string
  has(hash: string): Promise<boolean>
  info(hash: string): Promise<MediaInfo>
  /** Null where the media has no sound. */
  analysis(hash: string): Promise<Analysis | null>
  /** Every media there is. */
  all(): Promise<string[]>
  bytes(hash: string): Promise<number>
  /** Since when nothing has needed it, as far as that was looked for; null: it is needed. */
  unneededSince(hash: string): Promise<Date | null>
  markUnneeded(hash: string, isUnneeded: boolean): Promise<void>
  /** Takes it out of the store; it can be put back until it is dropped. */
  takeOut(hash: string): Promise<{ putBack(): Promise<void>; drop(): Promise<void> }>
  /** An empty folder; `keep` makes it the media's own, unless it is there already. */
  draft(): Promise<{ folder: string; keep(hash: string): Promise<void>; drop(): Promise<void> }>
}

const HASH = /^[0-9a-f]{64}$/
const MISSING = 'A file that is needed for this is missing. Bring it in again.'

export function openStore(root: string): MediaStore {
  const folderOf = (hash: string) => {
    if (!HASH.test(hash)) throw new NotThere(MISSING)
    return join(root, hash.slice(0, 2), hash)
  }
  const path = (hash: string, part: string) => join(folderOf(hash), part)
  const has = (hash: string) => exists(path(hash, PARTS.info))
  const info = async (hash: string) => {
    const text = await readFile(path(hash, PARTS.info), 'utf8').catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'ENOENT' ? new NotThere(MISSING, { cause: error }) : error
    })
    return mediaInfoSchema.parse(JSON.parse(text))
  }
  return {
    path,
    has,
    info,
    async analysis(hash) {
      const { channels } = await info(hash)
      return channels === 0 ? null : readAnalysis(await readFile(path(hash, PARTS.analysis)))
    },
    async all() {
      const shelves = (await readdir(root).catch(() => [])).filter((name) => /^[0-9a-f]{2}$/.test(name))
      const names = await Promise.all(shelves.map((shelf) => readdir(join(root, shelf))))
      return names.flat().filter((name) => HASH.test(name))
    },
    bytes: (hash) => bytesIn(folderOf(hash)),
    unneededSince: (hash) =>
      stat(path(hash, UNNEEDED)).then(
        ({ mtime }) => mtime,
        () => null,
      ),
    async markUnneeded(hash, isUnneeded) {
      if (isUnneeded) await writeFile(path(hash, UNNEEDED), '')
      else await rm(path(hash, UNNEEDED), { force: true })
    },
    async takeOut(hash) {
      const aside = join(root, DRAFTS, ownName(randomUUID()))
      await mkdir(dirname(aside), { recursive: true })
      await rename(folderOf(hash), aside)
      return {
        async putBack() {
          await rm(join(aside, UNNEEDED), { force: true })
          await rename(aside, folderOf(hash))
        },
        drop: () => rm(aside, { recursive: true, force: true }),
      }
    },
    async draft() {
      const folder = join(root, DRAFTS, ownName(randomUUID()))
      await mkdir(folder, { recursive: true })
      const drop = () => rm(folder, { recursive: true, force: true })
      return {
        folder,
        drop,
        async keep(hash) {
          await mkdir(join(root, hash.slice(0, 2)), { recursive: true })
          // Two imports of the same file may end together: the first one stays.
          if (await has(hash)) return drop()
          await rm(folderOf(hash), { recursive: true, force: true })
          await rename(folder, folderOf(hash))
        },
      }
    },
  }
}

/** Stands in a media's folder while nothing needs it. */
const UNNEEDED = 'unneeded'

export const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  )

export async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer)
  return hash.digest('hex')
}

/** Samples out of the store, for the renderer. Keeps its files open until closed. */
export function storeSource(store: MediaStore): { source: SampleSource; close(): Promise<void> } {
  const files = new Map<string, Promise<{ file: FileHandle; channels: number }>>()
  const openSound = async (hash: string) => {
    const { channels } = await store.info(hash)
    return { file: await open(store.path(hash, PARTS.sound)), channels }
  }
  return {
    async source(hash, from, frames) {
      if (!files.has(hash)) files.set(hash, openSound(hash))
      const { file, channels } = await files.get(hash)!
      const skipped = Math.max(0, -from)
      const samples = new Float32Array(frames * channels)
      const bytes = new Uint8Array(samples.buffer, skipped * channels * 4)
      await readWhole(file, bytes, Math.max(0, from) * channels * 4)
      return deinterleave(samples, channels)
    },
    async close() {
      for (const opened of files.values()) await (await opened).file.close()
    },
  }
}
