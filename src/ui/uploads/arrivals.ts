import { createStore, type StoreApi } from 'zustand/vanilla'
import type { JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { endOf, UNKNOWN_LIMIT } from '../jobs'
import { startUpload, type Arrival, type UploadPurpose } from './upload'

/** Files on their way, and how far each has come. They go on by themselves, whatever is shown. */
export interface Arrivals extends StoreApi<readonly Arrival[]> {
  add(files: readonly File[], purpose?: UploadPurpose, course?: string | null): void
  /** Cancels it, or puts it away. */
  drop(key: string): void
}

export function createArrivals(): Arrivals {
  const store = createStore<readonly Arrival[]>(() => [])
  const change = (key: string, part: Partial<Arrival>) =>
    store.setState((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)), true)

  async function follow(key: string, name: string, id: string): Promise<void> {
    change(key, { id, sent: 1, wholeAt: performance.now() })
    const onStatus = (status: JobStatus<'import'>) => change(key, { status })
    const ended = await endOf<'import'>(id, { onStatus, unknownFor: UNKNOWN_LIMIT })
    if (ended) change(key, { status: ended, error: ended.error })
    else change(key, { error: say('uploads.theServerHasLost', { name }) })
  }

  return Object.assign(store, {
    add(files: readonly File[], purpose: UploadPurpose = 'media', course: string | null = null) {
      const added = files.map((file): Arrival => {
        const key = crypto.randomUUID()
        const cancel = startUpload(file, purpose, course, {
          onProgress: (sent) => change(key, { sent }),
          onWhole: (id) => void follow(key, file.name, id),
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
