import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { outputOf } from '@/core/delivery/outputs'
import { documentOf, tell } from '@/core/lesson/telling'
import type { JobResult } from '@/core/messages/job'
import type { JobInputOf } from '@/core/messages/jobInput'
import { loadRevision } from '@/db/lessons'
import { textsInVideo } from '@/media/video/textsInVideo'
import { captionsObject, exportObject, objects } from './places'
import { doWork } from './threads'
import type { WorkOptions } from './workOptions'

/** Makes a finished file of one revision and keeps it under the job's id, with what was measured in it. */
export async function exportLesson(
  id: string,
  { lesson: lessonId, revision, file, language }: JobInputOf<'export'>,
  options: WorkOptions,
): Promise<JobResult<'export'>> {
  const folder = await objects().draft()
  const out = join(folder, 'export')
  try {
    const own = await loadRevision(lessonId, revision)
    const lesson = language === null ? own : tell(documentOf(own), language)
    const balance = await doWork('export', { name: file, lesson, out }, options)
    const { size } = await stat(out)
    const texts = outputOf(file).kind === 'video' ? await textsInVideo(out, folder) : null
    await objects().put(exportObject(id, file), out)
    if (texts?.captions) await objects().put(captionsObject(id), texts.captions)
    const told = texts ? { hasCaptions: texts.captions !== null, chapters: texts.chapters } : {}
    return { balance, bytes: size, ...told }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

export async function forgetExport(id: string, { file }: JobInputOf<'export'>): Promise<void> {
  await objects().remove(exportObject(id, file))
  if (outputOf(file).kind === 'video') await objects().remove(captionsObject(id))
}
