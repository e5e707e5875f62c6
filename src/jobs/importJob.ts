import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { HOUSE_RATE } from '@/core/units'
import { createLesson } from '@/db/lessons'
import { courseOrFirst } from '@/db/courses'
import { findImport, updateImport, type ImportRow } from '@/db/imports'
import { loadRecording } from '@/db/recordings'
import type { ImportOptions } from '@/media/import/import'
import { makePictureFile, makeVoiceFile } from '@/media/import/recordings'
import { incomingObject, objects, uploadsFolder } from './places'
import { endWithError, throttled } from './reporting'
import { doWork } from './threads'

/** Turns an uploaded file into media, a saved copy into a lesson, or pieces of a recording into media. */
export async function importJob(id: string): Promise<void> {
  const row = await findImport(id)
  if (!row || row.state === 'done' || row.state === 'failed') return
  const options = { onProgress: throttled((progress) => updateImport(id, { progress })) }
  const folder = await objects().draft()
  try {
    await updateImport(id, { state: 'working' })
    const incoming = await objects().local(incomingObject(id))
    const path = row.purpose === 'recording' ? await gatherRecording(id, incoming, folder) : incoming
    await updateImport(id, { ...(await take(row, path, options)), state: 'done', progress: 1 })
  } catch (error) {
    await endWithError(error, (sentence) => updateImport(id, { state: 'failed', error: sentence }))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
  // Pieces of a recording stay until it is in its lesson.
  if (row.purpose !== 'recording') await removeUpload(id)
}

/** It may have come in at another machine; there it is cleared away. */
async function removeUpload(id: string): Promise<void> {
  await objects().remove(incomingObject(id))
  const path = join(uploadsFolder(), id)
  await Promise.all([path, `${path}.json`].map((file) => rm(file, { force: true })))
}

async function gatherRecording(id: string, pieces: string, folder: string): Promise<string> {
  const { kind, details } = await loadRecording(id)
  const out = join(folder, 'recording')
  if (kind === 'picture') await makePictureFile(pieces, out)
  else await makeVoiceFile(pieces, details.rate ?? HOUSE_RATE, out)
  return out
}

async function take(row: ImportRow, path: string, options: ImportOptions): Promise<Partial<ImportRow>> {
  if (row.purpose !== 'archive') return { media: await doWork('import', { path, name: row.name }, options) }
  const lesson = await doWork('open', { path }, options)
  return { lessonId: await createLesson(await courseOrFirst(row.courseId), lesson) }
}
