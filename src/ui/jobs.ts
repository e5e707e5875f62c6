import { QueryObserver } from '@tanstack/react-query'
import { isUnderWay, jobResultSchemas, type JobResult, type JobStatus } from '@/core/messages/job'
import type { ComputationKind, JobInputOf, JobKind } from '@/core/messages/jobInput'
import { say } from '@/messages/say'
import { call } from './api'
import { queryClient } from './queries'

const ASK_EVERY = 300 // ms
const ASK_WHILE_AWAY = 2000
/** So many fit into an address. */
const AT_ONCE = 200
/** So long the server may not know a file that it has taken. */
export const UNKNOWN_LIMIT = 60_000 // ms

/** Told how far a job is; null: the server does not know it, or not any more. */
type JobListener = (status: JobStatus | null) => void

const watched = new Map<string, Set<JobListener>>()
let stopAsking: (() => void) | null = null

/** Tells of a job again and again, until what it returns is called. All that are watched are asked for together. */
function watchJob(id: string, listener: JobListener): () => void {
  const listeners = watched.get(id) ?? new Set()
  watched.set(id, listeners.add(listener))
  stopAsking ??= startAsking()
  return () => {
    listeners.delete(listener)
    if (listeners.size === 0 && watched.get(id) === listeners) watched.delete(id)
    if (watched.size > 0) return
    stopAsking?.()
    stopAsking = null
  }
}

function startAsking(): () => void {
  const observer = new QueryObserver(queryClient(), {
    queryKey: ['jobs'],
    queryFn: askForAll,
    // A server that is away comes back.
    refetchInterval: ({ state }) => (state.status === 'error' ? ASK_WHILE_AWAY : ASK_EVERY),
    refetchIntervalInBackground: true,
    retry: false,
    gcTime: 0,
  })
  return observer.subscribe(() => {})
}

async function askForAll(): Promise<null> {
  const all = [...watched.keys()]
  for (let from = 0; from < all.length; from += AT_ONCE) {
    const ids = all.slice(from, from + AT_ONCE)
    const statuses = await call<JobStatus[]>(`/api/jobs?${ids.map((id) => `id=${id}`).join('&')}`)
    for (const id of ids) {
      const status = statuses.find((one) => one.id === id) ?? null
      for (const listener of [...(watched.get(id) ?? [])]) listener(status)
    }
  }
  return null
}

interface Waiting<K extends JobKind> {
  onStatus?: (status: JobStatus<K>) => void
  /** So long the server may not know it (ms). */
  unknownFor?: number
}

/** A job as it ended, or null where the server does not know it (any more). */
export function endOf<K extends JobKind>(
  id: string,
  { onStatus, unknownFor = 0 }: Waiting<K> = {},
): Promise<JobStatus<K> | null> {
  return new Promise((resolve) => {
    let known = performance.now()
    const unwatch = watchJob(id, (status) => {
      if (status) known = performance.now()
      if (status && isUnderWay(status)) return onStatus?.(status as JobStatus<K>)
      if (!status && performance.now() - known < unknownFor) return
      unwatch()
      resolve(status as JobStatus<K> | null)
    })
  })
}

/** The work itself could not be done; anything else that is thrown is a matter of the connection. */
export class JobFailed extends Error {
  override name = 'JobFailed'
}

/** Has the server compute something and waits for its result. Throws an error with the sentence the server gives. */
export async function runJob<K extends ComputationKind>(
  input: JobInputOf<K>,
  onProgress: (share: number) => void = () => {},
): Promise<JobResult<K>> {
  const ask = () => call<JobStatus<K>>('/api/jobs', { body: input })
  let status = await ask()
  // One that is gone is asked for again.
  const onStatus = ({ progress }: JobStatus<K>) => onProgress(progress)
  while (isUnderWay(status)) status = (await endOf<K>(status.id, { onStatus })) ?? (await ask())
  if (status.state === 'failed') throw new JobFailed(status.error ?? say('parts.thisDidNotWork'))
  return jobResultSchemas[status.kind].parse(status.result) as JobResult<K>
}
