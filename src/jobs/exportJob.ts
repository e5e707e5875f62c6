import { mkdir, rm, stat } from 'node:fs/promises'
import { dirname } from 'node:path'
import type { Lesson } from '@/core/lesson/document'
import type { ExportKind } from '@/core/lesson/exportStatus'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { findExport, updateExport } from '@/db/exports'
import { loadRevision } from '@/db/lessons'
import { assertCanBeMade, soundsOf } from '@/media/lessonMedia'
import type { RenderOptions } from '@/media/mixdown'
import { renderSound, renderVideo } from '@/media/video/render'
import { renderVoice } from '@/media/voiceFile'
import { codedFolder, exportFile, mediaStore } from './places'
import { endWithError, throttled } from './reporting'

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
    const balance = await make(row.kind, lesson, out, { signal: cancel.signal, onProgress })
    const { size } = await stat(out)
    await updateExport(id, { state: 'done', progress: 1, balance, bytes: size, finishedAt: new Date() })
  } catch (error) {
    await rm(out, { force: true })
    if (!cancel.signal.aborted)
      await endWithError(error, (sentence) => updateExport(id, { state: 'failed', error: sentence }))
  }
}

async function make(
  kind: ExportKind,
  lesson: Lesson,
  out: string,
  options: RenderOptions,
): Promise<BalanceSheet | null> {
  const store = mediaStore()
  await assertCanBeMade(lesson, store)
  const sounds = await soundsOf(lesson, store, options)
  switch (kind) {
    case 'video':
      return (await renderVideo(lesson, store, sounds, codedFolder(), out, options)).balance
    case 'sound':
      return (await renderSound(lesson, store, sounds, out, options)).balance
    default:
      await renderVoice(lesson, store, sounds, kind === 'voice-wav' ? 'wav' : 'flac', out, options)
      return null
  }
}
