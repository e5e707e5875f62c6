import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { HOUSE_RATE } from '@/core/units'
import { createLesson } from '@/db/lessons'
import { courseOrFirst } from '@/db/courses'
import { findImport, updateImport, type ImportRow } from '@/db/imports'
import { loadRecording } from '@/db/recordings'
import type { ImportOptions } from '@/media/import/import'
import { makePictureFile, makeVoiceFile, recordingFile } from '@/media/import/recordings'
import { recordingsFolder, uploadsFolder } from './places'
import { endWithError, throttled } from './reporting'
import { doWork } from './threads'

/** Turns an uploaded file into media, a saved copy into a lesson, or pieces of a recording into media. */
export async function importJob(id: string): Promise<void> {
  const row = await findImport(id)
  if (!row || row.state === 'done' || row.state === 'failed') return
  const path = join(uploadsFolder(), id)
  const options = { onProgress: throttled((progress) => updateImport(id, { progress })) }
  try {
    await updateImport(id, { state: 'working' })
    if (row.purpose === 'recording') await gatherRecording(id, path)
    await updateImport(id, { ...(await take(row, path, options)), state: 'done', progress: 1 })
  } catch (error) {
    await endWithError(error, (sentence) => updateImport(id, { state: 'failed', error: sentence }))
  }
  // Pieces of a recording stay until it is in its lesson.
  await Promise.all([rm(path, { force: true }), rm(`${path}.json`, { force: true })])
}

async function gatherRecording(id: string, out: string): Promise<void> {
  const { kind, details } = await loadRecording(id)
  const pieces = recordingFile(recordingsFolder(), id)
  if (kind === 'picture') await makePictureFile(pieces, out)
  else await makeVoiceFile(pieces, details.rate ?? HOUSE_RATE, out)
}

async function take(row: ImportRow, path: string, options: ImportOptions): Promise<Partial<ImportRow>> {
  if (row.purpose !== 'archive') return { media: await doWork('import', { path, name: row.name }, options) }
  const lesson = await doWork('open', { path }, options)
  return { lessonId: await createLesson(await courseOrFirst(row.courseId), lesson) }
}
