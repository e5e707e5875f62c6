import { mediaOf } from '@/core/lesson/document'
import { documentOf } from '@/core/lesson/telling'
import { NotThere } from '@/core/userError'
import { findLessonRow, isReadable } from '@/db/lessons'
import { readLesson } from '@/core/lesson/upgrade'
import { mediaStore } from '@/jobs/places'
import { archiveOf } from '@/media/archive'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'

/** "Save a copy": the lesson and all its files as one zip, also of a lesson that this program can't read. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const row = await findLessonRow(id)
  if (!row) throw new NotThere('This lesson is no longer there. It may have been deleted in another window.')
  const lesson = isReadable(row.document) ? readLesson(row.document) : null
  const archive = await archiveOf(
    lesson ? documentOf(lesson) : row.document,
    lesson ? mediaOf(lesson) : hashesIn(row.document),
    mediaStore(),
  )
  const headers = downloadHeaders(`${lesson?.title || 'Lesson'}.zip`, 'application/zip')
  return new Response(streamOf(archive), { headers })
})

/** Everything in a document that looks like a file's hash. */
const hashesIn = (document: unknown): Set<string> => new Set(JSON.stringify(document).match(/\b[0-9a-f]{64}\b/g))
