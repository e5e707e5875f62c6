import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { JobResult } from '@/core/messages/job'
import type { JobInputOf } from '@/core/messages/jobInput'
import { HOUSE_RATE } from '@/core/units'
import { courseOrFirst } from '@/db/courses'
import { createCourseWith } from '@/db/courseCopies'
import { createLesson, isTaken } from '@/db/lessons'
import { loadRecording } from '@/db/arrivals'
import { makePictureFile, makeVoiceFile } from '@/media/import/recordings'
import { incomingObject, objects } from './places'
import { doWork } from './threads'
import { removeUpload } from './uploads'
import type { WorkOptions } from './workOptions'

type Import = JobInputOf<'import'>

/** Turns an uploaded file into media, a saved copy into a lesson or a course, or pieces of a recording into media. */
export async function importFile(id: string, input: Import, options: WorkOptions): Promise<JobResult<'import'>> {
  const folder = await objects().draft()
  try {
    const incoming = await objects().local(incomingObject(id))
    const path = input.purpose === 'recording' ? await gatherRecording(id, incoming, folder) : incoming
    return await take(id, input, path, options)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

async function take(id: string, { name, purpose, course }: Import, path: string, options: WorkOptions) {
  const nothing = { media: null, lesson: null, course: null }
  if (purpose !== 'archive') return { ...nothing, media: await doWork('import', { path, name }, options) }
  const copy = await doWork('open', { path }, options)
  // Called as the import is: where a worker dies after this, whoever does it again finds it done.
  if (copy.course) return { ...nothing, course: await createCourseWith(copy.course, copy.lessons, id) }
  if (!(await isTaken(id))) await createLesson(await courseOrFirst(course), copy.lessons[0]!, id)
  return { ...nothing, lesson: id }
}

async function gatherRecording(id: string, pieces: string, folder: string): Promise<string> {
  const { kind, details } = await loadRecording(id)
  const out = join(folder, 'recording')
  if (kind === 'picture') await makePictureFile(pieces, out)
  else await makeVoiceFile(pieces, details.rate ?? HOUSE_RATE, out)
  return out
}

/** What came in may go when its import has ended; pieces of a recording stay until it is in its lesson. */
export async function forgetIncoming(id: string, { purpose }: Import): Promise<void> {
  if (purpose !== 'recording') await removeUpload(id)
}
