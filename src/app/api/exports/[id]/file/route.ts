import { EXPORT_FILES } from '@/core/messages/exportStatus'
import { loadExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { exportObject } from '@/jobs/places'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'
import { sendObject } from '../../../sendObject'

export const GET = route<{ id: string }>(async (request, { id }) => {
  const { kind, lessonId, revision } = await loadExport(id)
  const { title } = await loadRevision(lessonId, revision)
  const { ending, type } = EXPORT_FILES[kind]
  const name = kind.startsWith('voice') ? `${title}, voice` : title
  return sendObject(request, exportObject(id, kind), downloadHeaders(`${name}.${ending}`, type))
})
