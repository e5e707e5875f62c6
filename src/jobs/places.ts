import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { EXPORT_FILES, type ExportKind } from '@/core/messages/exportStatus'
import { dataFolder } from '@/media/settings'
import { DRAFTS, openStore } from '@/media/store/store'
import { clearAbandoned } from '@/media/store/workFolder'

/** Where things lie in the data folder. */
export const mediaStore = () => openStore(join(dataFolder(), 'media'))
export const uploadsFolder = () => join(dataFolder(), 'uploads')
/** Coded pictures that can be used again; may be emptied at any time. */
export const codedFolder = () => join(dataFolder(), 'coded')
export const exportFile = (id: string, kind: ExportKind) =>
  join(dataFolder(), 'exports', `${id}.${EXPORT_FILES[kind].ending}`)
/** Sentences that synthesised voices have said; may be emptied at any time. */
export const speechFolder = () => join(dataFolder(), 'speech')
/** Recordings on their way from a browser, a file each. */
export const recordingsFolder = () => join(dataFolder(), 'recordings')

/** Takes away what killed processes of this machine have left half made. */
export async function clearLeftovers(): Promise<void> {
  await Promise.all([tmpdir(), join(dataFolder(), 'media', DRAFTS)].map(clearAbandoned))
}

/** Folders that hold what people made; only the program's own user reads them. */
export const dataFolders = (): string[] =>
  ['media', 'uploads', 'coded', 'exports', 'speech', 'recordings'].map((name) => join(dataFolder(), name))
