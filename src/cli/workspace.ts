import { stat } from 'node:fs/promises'
import { basename } from 'node:path'
import type { Lesson } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import { documentOf, tell } from '@/core/lesson/telling'
import type { Analysis } from '@/core/measure/analysis'
import { UserError } from '@/core/userError'
import { readArchive } from '@/media/archive'
import { importMedia } from '@/media/import/import'
import { loadInfos, soundsOf, type LessonSounds } from '@/media/lessonMedia'
import { withMarksSettled } from '@/media/speech/settleLesson'
import { openAssets, type Assets } from '@/media/store/assets'
import { folderObjects } from '@/media/store/folderObjects'
import { openStore, type MediaStore } from '@/media/store/store'
import { withCache } from './cache'

/** A store and assets that the next command finds again. */
export const withStore = <T>(work: (store: MediaStore, assets: Assets) => Promise<T>): Promise<T> =>
  withCache((folder) => {
    const objects = folderObjects(folder)
    return work(openStore(objects), openAssets(objects))
  })

export interface OpenLesson {
  lesson: Lesson
  store: MediaStore
  assets: Assets
  sounds: LessonSounds
  mediaOf: (hash: string) => MediaInfo | undefined
}

/** `language`: in which it is told; undefined: in its own. */
export function withArchive<T>(
  archive: string,
  language: string | undefined,
  work: (opened: OpenLesson) => Promise<T>,
): Promise<T> {
  return withStore(async (store, assets) => {
    await stat(archive)
    const lesson = await withMarksSettled(tell(documentOf(await readArchive(archive, store)), language), store, assets)
    const [sounds, mediaOf] = [await soundsOf(lesson, store), await loadInfos(lesson, store)]
    return work({ lesson, store, assets, sounds, mediaOf })
  })
}

export interface ImportedSound {
  media: MediaInfo
  analysis: Analysis
}

export async function importFile(store: MediaStore, path: string): Promise<MediaInfo> {
  await stat(path)
  return importMedia(store, path, basename(path), { isOwn: true })
}

export async function importSoundFile(store: MediaStore, path: string): Promise<ImportedSound> {
  const media = await importFile(store, path)
  const analysis = await store.analysis(media.hash)
  if (!analysis) throw new UserError(`This file has no sound in it: ${path}. Choose a file with an audio track.`)
  return { media, analysis }
}
