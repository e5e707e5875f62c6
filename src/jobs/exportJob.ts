import { mkdir, rm, stat } from 'node:fs/promises'
import { dirname } from 'node:path'
import { findExport, updateExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { exportFile } from './places'
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
  const out = exportFile(id, row.kind)
  try {
    await updateExport(id, { state: 'working' })
    await mkdir(dirname(out), { recursive: true })
    const lesson = await loadRevision(row.lessonId, row.revision)
    const balance = await doWork('export', { kind: row.kind, lesson, out }, { signal: cancel.signal, onProgress })
    const { size } = await stat(out)
    await updateExport(id, { state: 'done', progress: 1, balance, bytes: size, finishedAt: new Date() })
  } catch (error) {
    await rm(out, { force: true })
    if (!cancel.signal.aborted)
      await endWithError(error, (sentence) => updateExport(id, { state: 'failed', error: sentence }))
  }
}
