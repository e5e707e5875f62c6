import { mkdir, rm, stat } from 'node:fs/promises'
import { dirname } from 'node:path'
import { findExport, updateExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { cleanVoices, loadAnalyses } from '@/media/lessonMedia'
import { renderSound, renderVideo } from '@/media/video/render'
import { codedFolder, exportFile, mediaStore } from './places'
import { explain, throttled } from './reporting'

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
    const store = mediaStore()
    const lesson = await cleanVoices(await loadRevision(row.lessonId, row.revision), store, { signal: cancel.signal })
    const analysisOf = await loadAnalyses(lesson, store)
    await mkdir(dirname(out), { recursive: true })
    const options = { signal: cancel.signal, onProgress }
    const { balance } =
      row.kind === 'video'
        ? await renderVideo(lesson, store, analysisOf, codedFolder(), out, options)
        : await renderSound(lesson, store, analysisOf, out, options)
    await updateExport(id, {
      state: 'done',
      progress: 1,
      balance,
      bytes: (await stat(out)).size,
      finishedAt: new Date(),
    })
  } catch (error) {
    await rm(out, { force: true })
    if (!cancel.signal.aborted) await updateExport(id, { state: 'failed', error: explain(error) })
  }
}
