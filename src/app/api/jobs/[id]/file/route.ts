import { EXPORT_FILES } from '@/core/messages/exports'
import { loadJob } from '@/db/jobs'
import { loadRevision } from '@/db/lessons'
import { exportObject } from '@/jobs/places'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'
import { sendObject } from '../../../sendObject'

export const GET = route<{ id: string }>(async (request, { id }) => {
  const { file, lesson, revision } = (await loadJob(id, 'export')).input
  const { title } = await loadRevision(lesson, revision)
  const { ending, type } = EXPORT_FILES[file]
  const name = file.startsWith('voice') ? `${title}, voice` : title
  return sendObject(request, exportObject(id, file), downloadHeaders(`${name}.${ending}`, type))
})
