import { taskInputSchema, type TaskKind } from '@/core/lesson/task'
import { requestTask, taskStatuses } from '@/db/tasks'
import { sendJob } from '@/jobs/queue'
import { readJson, route } from '../answer'

/** What somebody waits for goes before what is done in the background; higher goes first. */
const PRIORITIES: Partial<Record<TaskKind, number>> = { effect: 3, compose: 3, scenes: 3, match: 3, read: 2, clean: 1 }

/** How far tasks have come: `?id=…&id=…`. */
export const GET = route(async (request) =>
  Response.json(await taskStatuses(new URL(request.url).searchParams.getAll('id').slice(0, 500))),
)

/** Asks for a task; what was done before is there at once. */
export const POST = route(async (request) => {
  const input = await readJson(request, taskInputSchema)
  const { id, isNew } = await requestTask(input)
  if (isNew) await sendJob('task', id, PRIORITIES[input.kind] ?? 0)
  const [status] = await taskStatuses([id])
  return Response.json(status)
})
