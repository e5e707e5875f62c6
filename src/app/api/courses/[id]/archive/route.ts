import { courseForCopy } from '@/db/courseCopies'
import { mediaStore } from '@/jobs/places'
import { courseArchiveOf } from '@/media/archive'
import { route } from '../../../answer'
import { downloadHeaders, streamOf } from '../../../download'
import { mediaNeededBy } from '../../../mediaNeededBy'

/** "Save a copy" of a course: all its lessons and their files as one zip. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { head, documents } = await courseForCopy(id)
  const media = new Set(documents.flatMap((document) => [...mediaNeededBy(document)]))
  const archive = await courseArchiveOf(head, documents, media, mediaStore())
  return new Response(streamOf(archive), { headers: downloadHeaders(`${head.title}.zip`, 'application/zip') })
})
