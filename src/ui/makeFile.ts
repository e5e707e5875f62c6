import type { OutputName } from '@/core/delivery/outputs'
import type { JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { call } from './api'
import { endOf } from './jobs'

/** Has a file of the lesson made as it is saved now, and the browser save it. Throws an Error with a sentence. */
export async function makeFile(lesson: string, kind: OutputName): Promise<void> {
  const { id } = await call<JobStatus>('/api/jobs', { body: { kind: 'export', lesson, file: kind } })
  const made = await endOf(id)
  if (made?.state === 'failed') throw new Error(made.error ?? say('parts.thisCouldNotBe'))
  if (made?.state !== 'done') return
  const link = document.createElement('a')
  link.href = `/api/jobs/${id}/file`
  link.click()
}
