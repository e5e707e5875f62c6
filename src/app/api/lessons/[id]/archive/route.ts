import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadLesson } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { writeArchive } from '@/media/archive'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'
import { sendFile } from '../../../sendFile'

/** "Save a copy": the lesson and all its files as one zip. */
export const GET = route<{ id: string }>(async (request, { id }) => {
  const { lesson } = await loadLesson(id)
  const work = await mkdtemp(join(tmpdir(), 'yarn-step-'))
  try {
    const file = join(work, 'copy.zip')
    await writeArchive(lesson, mediaStore(), file)
    // The open file outlives its name.
    return await sendFile(request, file, downloadHeaders(`${lesson.title}.zip`, 'application/zip'))
  } finally {
    await rm(work, { recursive: true, force: true })
  }
})
