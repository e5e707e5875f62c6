import {
  jobResultSchemas,
  type ComputationKind,
  type JobInputOf,
  type JobResult,
  type JobStatus,
} from '@/core/messages/job'
import { say } from '@/messages/say'
import { call } from './api'

const ASK_EVERY = 300 // ms
const WAIT_WHILE_AWAY = 2000

/** The work itself could not be done; anything else that is thrown is a matter of the connection. */
export class JobFailed extends Error {
  override name = 'JobFailed'
}

/** Has the server compute something and waits for its result. Throws an error with the sentence the server gives. */
export async function runJob<K extends ComputationKind>(
  input: JobInputOf<K>,
  onProgress: (share: number) => void = () => {},
): Promise<JobResult<K>> {
  let status = await call<JobStatus>('/api/jobs', { body: input })
  while (status.state === 'waiting' || status.state === 'working') {
    onProgress(status.progress)
    await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
    // A server that is away comes back; a job that is gone is asked for again.
    const [now] = await call<JobStatus[]>(`/api/jobs?id=${status.id}`).catch(async () => {
      await new Promise((resolve) => setTimeout(resolve, WAIT_WHILE_AWAY))
      return [status]
    })
    status = now ?? (await call<JobStatus>('/api/jobs', { body: input }))
  }
  if (status.state === 'failed') throw new JobFailed(status.error ?? say('parts.thisDidNotWork'))
  return jobResultSchemas[status.kind].parse(status.result) as JobResult<K>
}
