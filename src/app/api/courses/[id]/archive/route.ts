import { courseForCopy } from '@/db/courseCopies'
import { mediaStore } from '@/jobs/places'
import { courseArchiveOf } from '@/media/archive'
import { route } from '../../../answer'
import { asCopied } from '../../../asCopied'
import { downloadHeaders, streamOf } from '../../../download'

/** "Save a copy" of a course: all its lessons and their files as one zip. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
  const { head, documents } = await courseForCopy(id)
  const copied = documents.map(asCopied)
  const media = new Set(copied.flatMap((one) => [...one.media]))
  const archive = await courseArchiveOf(
    head,
    copied.map(({ document }) => document),
    media,
    mediaStore(),
  )
  return new Response(streamOf(archive), { headers: downloadHeaders(`${head.title}.zip`, 'application/zip') })
})
