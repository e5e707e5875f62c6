import { fileNameOf, mediaTypeOf, outputOf } from '@/core/delivery/outputs'
import { loadJob } from '@/db/jobs'
import { loadRevision } from '@/db/lessons'
import { exportObject } from '@/jobs/places'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'
import { sendObject } from '../../../sendObject'

export const GET = route<{ id: string }>(async (request, { id }) => {
  const { file, lesson, revision } = (await loadJob(id, 'export')).input
  const { title } = await loadRevision(lesson, revision)
  return sendObject(
    request,
    exportObject(id, file),
    downloadHeaders(fileNameOf(title, file), mediaTypeOf(outputOf(file))),
  )
})
