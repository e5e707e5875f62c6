import { NotThere } from '@/core/userError'
import { findLessonRow, lessonTitle } from '@/db/lessons'
import { mediaStore } from '@/jobs/places'
import { archiveOf } from '@/media/archive'
import { say } from '@/messages/say'
import { route } from '../../../answer'
import { asCopied } from '../../../asCopied'
import { downloadHeaders, streamOf } from '../../../download'

/** "Save a copy": the lesson and all its files as one zip, also of a lesson that this program can't read. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const row = await findLessonRow(id)
  if (!row) throw new NotThere(say('server.lessonGone'))
  const { document, media } = asCopied(row.document)
  const archive = await archiveOf(document, media, mediaStore())
  const headers = downloadHeaders(`${(await lessonTitle(id)) || 'Lesson'}.zip`, 'application/zip')
  return new Response(streamOf(archive), { headers })
})
