import { listRevisions, loadLesson } from '@/db/lessons'
import { route } from '../../../answer'

export const GET = route<{ id: string }>(async (_request, { id }) => {
  await loadLesson(id)
  return Response.json(await listRevisions(id))
})
