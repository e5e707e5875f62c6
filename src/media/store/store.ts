import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open, readFile, readdir, rm, stat, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import { readAnalysis } from '@/core/formats/analysis'
import { mediaInfoSchema, type MediaInfo } from '@/core/messages/media'
import type { Analysis } from '@/core/measure/analysis'
import type { SampleSource } from '@/core/mix/renderer'
import { deinterleave } from '../ffmpeg'
import type { AssetLog } from './assets'
import { bytesIn, readWhole } from './files'
import { missing, type ObjectStore } from './objects'

/** Names of what a media folder holds. The sound is interleaved 32-bit float at the house rate. */
export const PARTS = {
  original: 'original',
  info: 'info.json',
  sound: 'sound.f32',
  analysis: 'analysis.bin',
  /** A recording's picture, as every browser plays it. */
  proxy: 'proxy.mp4',
  /** Slides as the program that was asked drew them. */
  drawn: 'deck.pdf',
  page: (page: number) => `page-${page}.png`,
  thumbnail: (page: number) => `thumbnail-${page}.webp`,
} as const

/** Files by the hash of their content, each with what import made of it. */
export interface MediaStore {
  /** A file of this machine with a part of a media, only to be read. Throws NotThere. */
  local(hash: string, part: string): Promise<string>
  has(hash: string): Promise<boolean>
  hasPart(hash: string, part: string): Promise<boolean>
  info(hash: string): Promise<MediaInfo>
  /** Null where the media has no sound. */
  analysis(hash: string): Promise<Analysis | null>
  /** Everything there is, also what is set aside. */
  stock(): Promise<Map<string, StoredMedia>>
  /** Nobody finds it from now on; it can be put back until it is removed. */
  setAside(hash: string): Promise<void>
  putBack(hash: string): Promise<void>
  remove(hash: string): Promise<void>
  /** An empty folder; `keep` makes its files the media's own, unless it is there already. */
  draft(): Promise<MediaDraft>
}

export interface StoredMedia {
  bytes: number
  isSetAside: boolean
}

export interface MediaDraft {
  folder: string
  /** `sources`: what it was made of, where that was other media. */
  keep(hash: string, sources?: readonly string[]): Promise<void>
  drop(): Promise<void>
}

const HASH = /^[0-9a-f]{64}$/
const FOLDER = 'media/'
/** A media is there when its `info.json` is; this is what it is called while it is set aside. */
const ASIDE = 'set-aside.json'

/** The name of a media's part among all that is stored. */
export function mediaObject(hash: string, part: string): string {
  if (!HASH.test(hash)) throw missing()
  return `${FOLDER}${hash.slice(0, 2)}/${hash}/${part}`
}

/** `log` is told of everything that is kept. */
export function openStore(objects: ObjectStore, log: AssetLog = () => {}): MediaStore {
  const hasPart = async (hash: string, part: string) => (await objects.size(mediaObject(hash, part))) !== null
  const has = (hash: string) => hasPart(hash, PARTS.info)
  const local = (hash: string, part: string) => objects.local(mediaObject(hash, part))
  const info = async (hash: string) =>
    mediaInfoSchema.parse(JSON.parse(await readFile(await local(hash, PARTS.info), 'utf8')))
  const rename = async (hash: string, from: string, to: string) => {
    await objects.put(mediaObject(hash, to), await local(hash, from))
    await objects.remove(mediaObject(hash, from))
  }
  return {
    local,
    has,
    hasPart,
    info,
    async analysis(hash) {
      const { channels } = await info(hash)
      return channels === 0 ? null : readAnalysis(await readFile(await local(hash, PARTS.analysis)))
    },
    async stock() {
      const stock = new Map<string, StoredMedia>()
      for await (const { name, bytes } of objects.list(FOLDER)) {
        const [, , hash = '', part] = name.split('/')
        if (!HASH.test(hash)) continue
        const known = stock.get(hash) ?? { bytes: 0, isSetAside: false }
        stock.set(hash, { bytes: known.bytes + bytes, isSetAside: known.isSetAside || part === ASIDE })
      }
      return stock
    },
    setAside: (hash) => rename(hash, PARTS.info, ASIDE),
    async putBack(hash) {
      // Somebody may have brought it in anew meanwhile.
      if (await has(hash)) await objects.remove(mediaObject(hash, ASIDE))
      else await rename(hash, ASIDE, PARTS.info)
    },
    async remove(hash) {
      const names: string[] = []
      for await (const { name } of objects.list(mediaObject(hash, ''))) names.push(name)
      // What says that it is there goes first, what says that it is to go last: whoever comes next can go on.
      const rank = (name: string) => (name.endsWith(PARTS.info) ? 0 : name.endsWith(ASIDE) ? 2 : 1)
      for (const name of names.sort((a, b) => rank(a) - rank(b))) await objects.remove(name)
    },
    async draft() {
      const folder = await objects.draft()
      const drop = () => rm(folder, { recursive: true, force: true })
      return {
        folder,
        drop,
        async keep(hash, sources = []) {
          // Two imports of the same file may end together: the first one stays.
          if (!(await has(hash))) {
            const parts = (await readdir(folder)).filter((part) => part !== PARTS.info)
            for (const part of [...parts, PARTS.info]) await objects.put(mediaObject(hash, part), join(folder, part))
          }
          log({ name: hash, kind: 'media', edition: '', sources, bytes: await bytesIn(folder) })
          await drop()
        },
      }
    },
  }
}

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
    return { file: await open(await store.local(hash, PARTS.sound)), channels }
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
