import type { ExportKind } from '@/core/messages/exportStatus'
import type { TaskInput, TaskKind } from '@/core/messages/task'
import { transaction } from '@/db/client'
import { insertExport } from '@/db/exports'
import { insertImport, type ImportRow } from '@/db/imports'
import { updateRecording } from '@/db/recordings'
import { insertTask } from '@/db/tasks'
import { sendJob } from './queue'

/** The ways to ask for work: a row and its job, made together or not at all. */

type NewImport = Pick<ImportRow, 'id' | 'name' | 'purpose' | 'courseId'>

export const requestImport = (row: NewImport): Promise<void> =>
  transaction(async (tx) => {
    if (await insertImport(tx, row)) await sendJob(tx, 'import', row.id)
  })

/** A recording all of whose pieces are there is imported under its own id; once more where that has failed. */
export const requestRecordingImport = (id: string, name: string): Promise<void> =>
  transaction(async (tx) => {
    await updateRecording(id, { state: 'finished', importId: id }, tx)
    if (await insertImport(tx, { id, name, purpose: 'recording', courseId: null })) await sendJob(tx, 'import', id)
  })

export const requestExport = (lesson: string, revision: number, kind: ExportKind): Promise<string> =>
  transaction(async (tx) => {
    const id = await insertExport(tx, lesson, revision, kind)
    await sendJob(tx, 'export', id)
    return id
  })

/** What somebody waits for goes before what is done in the background; higher goes first. */
const PRIORITIES: Partial<Record<TaskKind, number>> = { effect: 3, compose: 3, scenes: 3, match: 3, read: 2, clean: 1 }

/** Returns the task's id; what was done before is done. */
export const requestTask = (input: TaskInput): Promise<string> =>
  transaction(async (tx) => {
    const { id, isNew } = await insertTask(tx, input)
    if (isNew) await sendJob(tx, 'task', id, PRIORITIES[input.kind] ?? 0)
    return id
  })
