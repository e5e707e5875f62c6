import {
  taskResultSchemas,
  type TaskInput,
  type TaskKind,
  type TaskResult,
  type TaskStatus,
} from '@/core/messages/task'
import { call } from './api'

const ASK_EVERY = 300 // ms
const WAIT_WHILE_AWAY = 2000

/** The task itself could not be done; anything else that is thrown is a matter of the connection. */
export class TaskFailed extends Error {
  override name = 'TaskFailed'
}

/** Has the server do a task and waits for its result. Throws an error with the sentence the server gives. */
export async function runTask<K extends TaskKind>(
  input: Extract<TaskInput, { kind: K }>,
  onProgress: (share: number) => void = () => {},
): Promise<TaskResult<K>> {
  let status = await call<TaskStatus>('/api/tasks', { body: input })
  while (status.state === 'waiting' || status.state === 'working') {
    onProgress(status.progress)
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
    // A server that is away comes back; a task that is gone is asked for again.
    const [now] = await call<TaskStatus[]>(`/api/tasks?id=${status.id}`).catch(async () => {
      await new Promise((resolve) => setTimeout(resolve, WAIT_WHILE_AWAY))
      return [status]
    })
    status = now ?? (await call<TaskStatus>('/api/tasks', { body: input }))
  }
  if (status.state === 'failed') throw new TaskFailed(status.error ?? 'This did not work. Try it again.')
  return taskResultSchemas[input.kind].parse(status.result) as TaskResult<K>
}
