import type { OutputName } from '@/core/delivery/outputs'
import type { JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { call } from './api'

const ASK_EVERY = 500 // ms

/** Has a file of the lesson made as it is saved now, and the browser save it. Throws an Error with a sentence. */
export async function makeFile(lesson: string, kind: OutputName): Promise<void> {
  const { id } = await call<JobStatus>('/api/jobs', { body: { kind: 'export', lesson, file: kind } })
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
    const made = await call<JobStatus[]>(`/api/jobs?id=${id}`).catch(() => null)
    const own = made?.[0]
    if (own?.state === 'done') break
    if (made && (!own || own.state === 'cancelled')) return
    if (own?.state === 'failed') throw new Error(own.error ?? say('parts.thisCouldNotBe'))
  }
  const link = document.createElement('a')
  link.href = `/api/jobs/${id}/file`
  link.click()
}
