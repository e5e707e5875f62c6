import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { findExport, updateExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { exportObject, objects } from './places'
import { endWithError, throttled } from './reporting'
import { doWork } from './threads'

/** Makes a finished file of one revision and keeps its balance sheet. */
export async function exportJob(id: string): Promise<void> {
  const row = await findExport(id)
  if (row?.state !== 'waiting' && row?.state !== 'working') return
  const cancel = new AbortController()
  const onProgress = throttled(async (progress) => {
    await updateExport(id, { progress })
    if ((await findExport(id))?.state !== 'working') cancel.abort()
  })
  const folder = await objects().draft()
  const out = join(folder, 'export')
  try {
    await updateExport(id, { state: 'working' })
    const lesson = await loadRevision(row.lessonId, row.revision)
    const balance = await doWork('export', { kind: row.kind, lesson, out }, { signal: cancel.signal, onProgress })
    const { size } = await stat(out)
    await objects().put(exportObject(id, row.kind), out)
    await updateExport(id, { state: 'done', progress: 1, balance, bytes: size, finishedAt: new Date() })
  } catch (error) {
    if (!cancel.signal.aborted)
      await endWithError(error, (sentence) => updateExport(id, { state: 'failed', error: sentence }))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
