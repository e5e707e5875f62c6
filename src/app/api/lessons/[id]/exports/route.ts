import { z } from 'zod'
import { EXPORT_KINDS } from '@/core/messages/exportStatus'
import { listExports } from '@/db/exports'
import { loadLesson } from '@/db/lessons'
import { requestExport } from '@/jobs/requests'
import { readJson, route } from '../../../answer'

const bodySchema = z.object({ kind: z.enum(EXPORT_KINDS) })

export const GET = route<{ id: string }>(async (_request, { id }) => {
  await loadLesson(id)
  return Response.json(await listExports(id))
})

/** Has a finished file made of what is saved now. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { kind } = await readJson(request, bodySchema)
  const { revision } = await loadLesson(id)
  return Response.json({ id: await requestExport(id, revision, kind) })
})
