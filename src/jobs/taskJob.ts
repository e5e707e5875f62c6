import { taskInputSchema, type TaskInput } from '@/core/messages/task'
import { loadRevision } from '@/db/lessons'
import { findTask, updateTask } from '@/db/tasks'
import type { TaskWork } from './performTask'
import { endWithError, throttled } from './reporting'
import { doWork } from './threads'

export async function taskJob(id: string): Promise<void> {
  const row = await findTask(id)
  if (!row || row.state === 'done' || row.state === 'failed') return
  try {
    await updateTask(id, { state: 'working' })
    const onProgress = throttled((progress) => updateTask(id, { progress }))
    const result = await doWork('task', await workOf(taskInputSchema.parse(row.input)), { onProgress })
    await updateTask(id, { state: 'done', progress: 1, result })
  } catch (error) {
    await endWithError(error, (sentence) => updateTask(id, { state: 'failed', error: sentence }))
  }
}

async function workOf(input: TaskInput): Promise<TaskWork> {
  if (input.kind !== 'balance') return input
  return { kind: 'balance', id: input.lesson, lesson: await loadRevision(input.lesson, input.revision) }
}
