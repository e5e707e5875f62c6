import { loadExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { exportFile } from '@/jobs/places'
import { route } from '../../../answer'
import { downloadHeaders } from '../../../download'
import { sendFile } from '../../../sendFile'

export const GET = route<{ id: string }>(async (request, { id }) => {
  const { kind, lessonId, revision } = await loadExport(id)
  const { title } = await loadRevision(lessonId, revision)
  const [ending, type] = kind === 'video' ? ['mp4', 'video/mp4'] : ['wav', 'audio/wav']
  return sendFile(request, exportFile(id, kind), downloadHeaders(`${title}.${ending}`, type))
})
