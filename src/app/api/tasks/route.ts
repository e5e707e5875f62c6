import { taskInputSchema } from '@/core/lesson/task'
import { requestTask, taskStatuses } from '@/db/tasks'
import { sendJob } from '@/jobs/queue'
import { readJson, route } from '../answer'

/** How far tasks have come: `?id=…&id=…`. */
export const GET = route(async (request) =>
  Response.json(await taskStatuses(new URL(request.url).searchParams.getAll('id').slice(0, 500))),
)

/** Asks for a task; what was done before is there at once. */
export const POST = route(async (request) => {
  const { id, isNew } = await requestTask(await readJson(request, taskInputSchema))
  if (isNew) await sendJob('task', id)
  const [status] = await taskStatuses([id])
  return Response.json(status)
})
