import { join } from 'node:path'
import { dataFolder } from '@/media/settings'
import { openStore } from '@/media/store'

/** Where things lie in the data folder. */
export const mediaStore = () => openStore(join(dataFolder(), 'media'))
export const uploadsFolder = () => join(dataFolder(), 'uploads')
/** Coded pictures that can be used again; may be emptied at any time. */
export const codedFolder = () => join(dataFolder(), 'coded')
export const exportFile = (id: string, kind: 'video' | 'sound') =>
  join(dataFolder(), 'exports', `${id}.${kind === 'video' ? 'mp4' : 'wav'}`)
/** Sentences that synthesised voices have said; may be emptied at any time. */
export const speechFolder = () => join(dataFolder(), 'speech')
/** Recordings on their way from a browser, a file each. */
export const recordingsFolder = () => join(dataFolder(), 'recordings')
