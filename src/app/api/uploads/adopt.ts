import { join } from 'node:path'
import { readFile, stat } from 'node:fs/promises'
import { z } from 'zod'
import { cutText, storableText } from '@/core/text'
import { LIMITS } from '@/core/lesson/limits'
import { incomingObject, objects, uploadsFolder } from '@/jobs/places'
import { openArrival } from '@/db/arrivals'
import { loadLesson } from '@/db/lessons'
import { requestImport } from '@/jobs/requests'

/** What the upload store writes beside each file. */
const noteSchema = z.object({
  id: z.string(),
  size: z.number(),
  metadata: z.record(z.string(), z.string().nullish()).nullish(),
})

/**
 * Has uploads imported that are whole. Their last piece asks for it, and so does everybody who asks how far they are: where
 * the database was away when the last piece came, it is made up for.
 */
export async function adoptUploads(ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    if (!/^[\w-]{8,40}$/.test(id)) continue
    const path = join(uploadsFolder(), id)
    const note = noteSchema.safeParse(JSON.parse(await readFile(`${path}.json`, 'utf8').catch(() => 'null')))
    const bytes = await stat(path).then(
      ({ size }) => size,
      () => -1,
    )
    if (note.success && bytes === note.data.size) await requestUploadImport(id, note.data.metadata ?? {})
  }
}

type Metadata = Record<string, string | null | undefined>

export const nameOf = ({ filename }: Metadata): string =>
  cutText(storableText(filename ?? ''), LIMITS.nameCharacters) || 'a file without a name'

/** A file is on its way into a lesson. */
export async function expectFile(id: string, lesson: string, name: string, owner: string): Promise<void> {
  await loadLesson(lesson)
  await openArrival({ id, lessonId: lesson, kind: 'file', name, owner })
}

export async function requestUploadImport(id: string, metadata: Metadata): Promise<void> {
  // The worker may be on another machine.
  await objects().put(incomingObject(id), join(uploadsFolder(), id))
  await requestImport(id, {
    name: nameOf(metadata),
    purpose: metadata.purpose === 'archive' ? 'archive' : 'media',
    course: metadata.course || null,
  })
}
