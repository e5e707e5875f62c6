import { z } from 'zod'
import { createExport, listExports } from '@/db/exports'
import { loadLesson } from '@/db/lessons'
import { sendJob } from '@/jobs/queue'
import { readJson, route } from '../../../answer'

const bodySchema = z.object({ kind: z.enum(['video', 'sound']) })

export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await listExports(id)))

/** Has a finished file made of what is saved now. */
export const POST = route<{ id: string }>(async (request, { id }) => {
  const { kind } = await readJson(request, bodySchema)
  const { revision } = await loadLesson(id)
  const made = await createExport(id, revision, kind)
  await sendJob('export', made)
  return Response.json({ id: made })
})
