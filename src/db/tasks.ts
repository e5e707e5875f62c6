import { createHash } from 'node:crypto'
import { eq, inArray } from 'drizzle-orm'
import { TASK_EDITIONS, type TaskInput, type TaskStatus } from '@/core/messages/task'
import { db, type Transaction } from './client'
import { tasks } from './schema'

export type TaskRow = typeof tasks.$inferSelect

/** Asks for a task; `isNew` where it has to be done, because nobody has asked before or it has failed. */
export async function insertTask(tx: Transaction, input: TaskInput): Promise<{ id: string; isNew: boolean }> {
  const key = JSON.stringify([TASK_EDITIONS[input.kind], input])
  const id = createHash('sha256').update(key).digest('hex').slice(0, 32)
  const inserted = await tx
    .insert(tasks)
    .values({ id, kind: input.kind, input, state: 'waiting' })
    .onConflictDoUpdate({
      target: tasks.id,
      set: { state: 'waiting', progress: 0, error: null, createdAt: new Date() },
      setWhere: eq(tasks.state, 'failed'),
    })
    .returning({ id: tasks.id })
  return { id, isNew: inserted.length > 0 }
}

export async function findTask(id: string): Promise<TaskRow | null> {
  const [row] = await db().select().from(tasks).where(eq(tasks.id, id))
  return row ?? null
}

export async function updateTask(id: string, change: Partial<Omit<TaskRow, 'id'>>): Promise<void> {
  await db().update(tasks).set(change).where(eq(tasks.id, id))
}

export async function taskStatuses(ids: string[]): Promise<TaskStatus[]> {
  if (ids.length === 0) return []
  const { id, state, progress, error, result } = tasks
  return db().select({ id, state, progress, error, result }).from(tasks).where(inArray(tasks.id, ids))
}
