import { createStore, type StoreApi } from 'zustand/vanilla'
import type { JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { call } from '../api'
import { startUpload, type Arrival, type UploadPurpose } from './upload'

const ASK_EVERY = 400 // ms
/** So long the server may not know a file that it has taken. */
const UNKNOWN_LIMIT = 60_000 // ms

/** Files on their way, and how far each has come. They go on by themselves, whatever is shown. */
export interface Arrivals extends StoreApi<readonly Arrival[]> {
  add(files: readonly File[], purpose?: UploadPurpose, course?: string | null): void
  /** Cancels it, or puts it away. */
  drop(key: string): void
}

export function createArrivals(): Arrivals {
  const store = createStore<readonly Arrival[]>(() => [])
  let asking = false

  const change = (key: string, part: Partial<Arrival>) =>
    store.setState((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)), true)

  async function ask(): Promise<void> {
    if (asking) return
    asking = true
    for (let waiting = waitingIn(store.getState()); waiting.length > 0; waiting = waitingIn(store.getState())) {
      const query = waiting.map(({ id }) => `id=${id}`).join('&')
      // A server that is away comes back.
      const statuses = await call<JobStatus<'import'>[]>(`/api/jobs?${query}`).catch(() => null)
      if (statuses) store.setState((all) => all.map((one) => withStatus(one, statuses)), true)
      await new Promise((resolve) => setTimeout(resolve, ASK_EVERY))
    }
    asking = false
  }

  return Object.assign(store, {
    add(files: readonly File[], purpose: UploadPurpose = 'media', course: string | null = null) {
      const added = files.map((file): Arrival => {
        const key = crypto.randomUUID()
        const cancel = startUpload(file, purpose, course, {
          onProgress: (sent) => change(key, { sent }),
          onWhole: (id) => {
            change(key, { id, sent: 1, wholeAt: performance.now() })
            void ask()
          },
          onError: (error) => change(key, { error }),
        })
        const { name, size } = file
        return { key, name, size, file, id: null, sent: 0, wholeAt: null, status: null, error: null, cancel }
      })
      store.setState((all) => [...all, ...added], true)
    },
    drop(key: string) {
      const arrival = store.getState().find((one) => one.key === key)
      // What is whole belongs to the import: there is nothing left to break off.
      if (arrival && arrival.wholeAt === null) arrival.cancel()
      store.setState((all) => all.filter((one) => one.key !== key), true)
    },
  })
}

const waitingIn = (arrivals: readonly Arrival[]) =>
  arrivals.filter(({ id, status, error }) => id && !error && status?.state !== 'done' && status?.state !== 'failed')

function withStatus(arrival: Arrival, statuses: readonly JobStatus<'import'>[]): Arrival {
  const status = statuses.find(({ id }) => id === arrival.id)
  if (status) return { ...arrival, status, error: status.error ?? arrival.error }
  const isAsked = arrival.id !== null && arrival.wholeAt !== null && arrival.status === null
  if (!isAsked || performance.now() - arrival.wholeAt! < UNKNOWN_LIMIT) return arrival
  return { ...arrival, error: say('uploads.theServerHasLost', { name: arrival.name }) }
}

const ofLessons = new Map<string, Arrivals>()

/** Files on their way into a lesson: they belong to it, and are there again when one comes back to it. */
export function arrivalsOfLesson(lesson: string): Arrivals {
  let arrivals = ofLessons.get(lesson)
  if (!arrivals) ofLessons.set(lesson, (arrivals = createArrivals()))
  return arrivals
}

export const isDone = (arrival: Arrival) => arrival.status?.state === 'done'

/** One figure for both parts of the way: bytes, then import. */
export const shareOf = ({ sent, status }: Arrival) =>
  sent * 0.5 + (status?.state === 'done' ? 0.5 : (status?.progress ?? 0) * 0.5)

export function sayState({ id, error, status, sent }: Arrival): string {
  if (error) return error
  if (!id) return say('uploads.sending', { percent: Math.round(sent * 100) })
  if (status?.state === 'done') return say('uploads.ready')
  return status?.state === 'working'
    ? say('uploads.reading', { percent: Math.round((status.progress ?? 0) * 100) })
    : say('uploads.waitingToBeRead')
}
