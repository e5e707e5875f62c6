import { jobRequestSchema } from '@/core/messages/jobInput'
import { exportsOfLesson, jobStatuses } from '@/db/jobs'
import { presentRevision } from '@/db/lessons'
import { requestJob } from '@/jobs/requests'
import { LESSON_BODY, readJson, route } from '../answer'
import { adoptUploads } from '../uploads/adopt'

const MOST = 500

/** How far jobs have come: `?id=…&id=…`; or `?exports=LESSON`: its finished files, and those in the making. */
export const GET = route(async (request) => {
  const query = new URL(request.url).searchParams
  const lesson = query.get('exports')
  if (lesson !== null) {
    return Response.json(await exportsOfLesson(lesson, await presentRevision(lesson)))
  }
  const ids = query.getAll('id').slice(0, MOST)
  const known = await jobStatuses(ids)
  const unknown = ids.filter((id) => !known.some((one) => one.id === id))
  if (unknown.length === 0) return Response.json(known)
  // An upload whose import could not be asked for when its last piece came.
  await adoptUploads(unknown)
  return Response.json([...known, ...(await jobStatuses(unknown))])
})

/** Asks for a job; what was computed before is there at once. */
export const POST = route(async (request) => {
  const id = await requestJob(await readJson(request, jobRequestSchema, LESSON_BODY))
  const [status] = await jobStatuses([id])
  return Response.json(status)
})
