import { documentOf } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import { NotThere } from '@/core/userError'
import { findLessonRow, isReadable } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { archiveOf } from '@/media/archive'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'
import { mediaNeededBy } from '../../../mediaNeededBy'

/** "Save a copy": the lesson and all its files as one zip, also of a lesson that this program can't read. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const row = await findLessonRow(id)
  if (!row) throw new NotThere('This lesson is no longer there. It may have been deleted in another window.')
  const lesson = isReadable(row.document) ? readLesson(row.document) : null
  const document = lesson ? documentOf(lesson) : row.document
  const archive = await archiveOf(document, mediaNeededBy(row.document), mediaStore())
  const headers = downloadHeaders(`${lesson?.title || 'Lesson'}.zip`, 'application/zip')
  return new Response(streamOf(archive), { headers })
})
