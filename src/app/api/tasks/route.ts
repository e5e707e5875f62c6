import { taskInputSchema } from '@/core/messages/task'
import { taskStatuses } from '@/db/tasks'
import { requestTask } from '@/jobs/requests'
import { LESSON_BODY, readJson, route } from '../answer'

/** How far tasks have come: `?id=…&id=…`. */
export const GET = route(async (request) =>
  Response.json(await taskStatuses(new URL(request.url).searchParams.getAll('id').slice(0, 500))),
)

/** Asks for a task; what was done before is there at once. */
export const POST = route(async (request) => {
  const id = await requestTask(await readJson(request, taskInputSchema, LESSON_BODY))
  const [status] = await taskStatuses([id])
  return Response.json(status)
})
