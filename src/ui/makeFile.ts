import type { ExportKind, ExportStatus } from '@/core/messages/exportStatus'
import { call } from './api'

const ASK_EVERY = 500 // ms

/** Has a file of the lesson made as it is saved now, and the browser save it. Throws an Error with a sentence. */
export async function makeFile(lesson: string, kind: ExportKind): Promise<void> {
  const { id } = await call<{ id: string }>(`/api/lessons/${lesson}/exports`, { body: { kind } })
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
    const made = await call<ExportStatus[]>(`/api/lessons/${lesson}/exports`).catch(() => null)
    const own = made?.find((one) => one.id === id)
    if (own?.state === 'done') break
    if (made && (!own || own.state === 'cancelled')) return
    if (own?.state === 'failed') throw new Error(own.error ?? 'This could not be made. Try it again.')
  }
  const link = document.createElement('a')
  link.href = `/api/exports/${id}/file`
  link.click()
}
