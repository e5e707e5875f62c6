import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { createLesson } from '@/db/lessons'
import { courseOrFirst } from '@/db/courses'
import { findImport, updateImport, type ImportRow } from '@/db/imports'
import { readArchive } from '@/media/archive'
import { importMedia, type ImportOptions } from '@/media/import'
import { mediaStore, uploadsFolder } from './places'
import { explain, throttled } from './reporting'

/** Turns an uploaded file into media, or a saved copy into a lesson. */
export async function importJob(id: string): Promise<void> {
  const row = await findImport(id)
  if (!row || row.state === 'done' || row.state === 'failed') return
  const path = join(uploadsFolder(), id)
  const options = { onProgress: throttled((progress) => updateImport(id, { progress })) }
  try {
    await updateImport(id, { state: 'working' })
    await updateImport(id, { ...(await take(row, path, options)), state: 'done', progress: 1 })
  } catch (error) {
    await updateImport(id, { state: 'failed', error: explain(error) })
  }
  await Promise.all([rm(path, { force: true }), rm(`${path}.json`, { force: true })])
}

async function take(row: ImportRow, path: string, options: ImportOptions): Promise<Partial<ImportRow>> {
  if (row.purpose === 'media') return { media: await importMedia(mediaStore(), path, row.name, options) }
  const lesson = await readArchive(path, mediaStore(), options)
  return { lessonId: await createLesson(await courseOrFirst(row.courseId), lesson) }
}
