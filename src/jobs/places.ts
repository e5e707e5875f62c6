import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { endingOf, outputOf, type OutputName } from '@/core/delivery/outputs'
import { bucketSettings, dataFolder } from '@/media/settings'
import { openAssets } from '@/media/store/assets'
import { bucketObjects } from '@/media/store/bucketObjects'
import { DRAFTS, folderObjects } from '@/media/store/folderObjects'
import type { ObjectStore } from '@/media/store/objects'
import { openStore } from '@/media/store/store'
import { clearAbandoned } from '@/media/store/workFolder'
import { noteAsset } from './noteAsset'

/** Where this installation keeps things. What is not in the store lies in the data folder of the machine that serves. */

const opened = new Map<string, ObjectStore>()

/** Everything that is shared by all machines: a bucket by setting, otherwise the data folder. */
export function objects(): ObjectStore {
  const bucket = bucketSettings()
  const key = JSON.stringify([bucket, dataFolder()])
  const store = opened.get(key) ?? (bucket ? bucketObjects(bucket, cacheFolder()) : folderObjects(dataFolder()))
  opened.set(key, store)
  return store
}

/** What a bucket holds, as far as it is used here; may be emptied at any time. */
export const cacheFolder = () => join(dataFolder(), 'cache')
export const mediaStore = () => openStore(objects(), noteAsset)
export const assetStore = () => openAssets(objects(), noteAsset)

export const exportObject = (id: string, name: OutputName) => `exports/${id}.${endingOf(outputOf(name))}`
/** The captions of a finished video, as pages read them. */
export const captionsObject = (id: string) => `exports/${id}.vtt`
/** An upload that is whole, or a recording all of whose pieces are there. */
export const incomingObject = (id: string) => `incoming/${id}`

/** Uploads on their way, as their pieces come in. */
export const uploadsFolder = () => join(dataFolder(), 'uploads')
/** Recordings on their way from a browser, a file each. */
export const recordingsFolder = () => join(dataFolder(), 'recordings')

/** Takes away what killed processes of this machine have left half made. */
export async function clearLeftovers(): Promise<void> {
  await Promise.all([tmpdir(), join(dataFolder(), DRAFTS), join(cacheFolder(), DRAFTS)].map(clearAbandoned))
}

/** Folders that hold what people made; only the program's own user reads them. */
export const dataFolders = (): string[] =>
  ['media', 'uploads', 'incoming', 'coded', 'mix', 'alignment', 'exports', 'speech', 'recordings', 'cache', DRAFTS].map(
    (name) => join(dataFolder(), name),
  )
