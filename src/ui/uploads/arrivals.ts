import { createStore, type StoreApi } from 'zustand/vanilla'
import { isUnderWay, type JobStatus } from '@/core/messages/job'
import { say } from '@/messages/say'
import { call, Refusal } from '../api'
import { holdArrival, throwArrivalAway } from '../arrivals/ownArrivals'
import { endOf, UNKNOWN_LIMIT } from '../jobs'
import { startUpload, type Arrival, type UploadAim } from './upload'

/** Files on their way, and how far each has come. They go on by themselves, whatever is shown. */
export interface Arrivals extends StoreApi<readonly Arrival[]> {
  /** Returns their keys. */
  add(files: readonly File[]): string[]
  /** It has found its place. */
  take(key: string): void
  /** Breaks it off, whatever is done with it now, or puts it away. */
  drop(key: string): void
  /** Nobody looks any more: what is still sent is broken off. */
  close(): void
}

/** `start` is another one in tests. */
export function createArrivals(aim: UploadAim, start: typeof startUpload = startUpload): Arrivals {
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

  function begin(file: File): Arrival {
    const key = crypto.randomUUID()
    const cancel = start(file, aim, {
      onBegun(id) {
        // What this page will put into its lesson no other one offers.
        if (aim.lesson) holdArrival(id)
        change(key, { id })
      },
      onProgress: (sent) => change(key, { sent }),
      onWhole: (id) => void follow(key, file.name, id),
      onError: (error) => change(key, { error }),
    })
    const { name, size } = file
    return { key, name, size, file, id: null, sent: 0, wholeAt: null, status: null, error: null, cancel }
  }

  async function breakOff({ id, wholeAt, status, cancel }: Arrival): Promise<void> {
    if (wholeAt === null) await cancel()
    if (id === null) return
    if (aim.lesson) await throwArrivalAway(id)
    else if (wholeAt !== null && (!status || isUnderWay(status))) await call(`/api/jobs/${id}`, { method: 'DELETE' })
  }

  const arrivals: Arrivals = Object.assign(store, {
    add(files: readonly File[]) {
      const added = files.map(begin)
      store.setState((all) => [...all, ...added], true)
      return added.map(({ key }) => key)
    },
    take: (key: string) => store.setState((all) => all.filter((one) => one.key !== key), true),
    drop(key: string) {
      const arrival = store.getState().find((one) => one.key === key)
      arrivals.take(key)
      // What the server does not know is broken off already.
      if (arrival && !isDone(arrival))
        breakOff(arrival).catch((error) => error instanceof Refusal || console.error(error))
    },
    close() {
      for (const arrival of store.getState().filter(isSending)) arrivals.drop(arrival.key)
      open.delete(arrivals)
    },
  })
  askBeforeLeaving(arrivals)
  return arrivals
}

/** All whose files may be on their way. */
const open = new Set<Arrivals>()
let asksBeforeLeaving = false

/** Bytes that are not on the server yet go with the page. */
function askBeforeLeaving(arrivals: Arrivals): void {
  open.add(arrivals)
  if (asksBeforeLeaving) return
  asksBeforeLeaving = true
  window.addEventListener('beforeunload', (event) => {
    if ([...open].some((one) => one.getState().some(isSending))) event.preventDefault()
  })
}

const ofLessons = new Map<string, Arrivals>()

/** Files on their way into a lesson: they belong to it, and are there again when one comes back to it. */
export function arrivalsOfLesson(lesson: string): Arrivals {
  let arrivals = ofLessons.get(lesson)
  if (!arrivals) ofLessons.set(lesson, (arrivals = createArrivals({ purpose: 'media', course: null, lesson })))
  return arrivals
}

const isSending = ({ wholeAt, error }: Arrival) => wholeAt === null && error === null
export const isDone = (arrival: Arrival) => arrival.status?.state === 'done'

/** One figure for both parts of the way: bytes, then import. */
export const shareOf = ({ sent, status }: Arrival) =>
  sent * 0.5 + (status?.state === 'done' ? 0.5 : (status?.progress ?? 0) * 0.5)

export function sayState({ wholeAt, error, status, sent }: Arrival): string {
  if (error) return error
  if (wholeAt === null) return say('uploads.sending', { percent: Math.round(sent * 100) })
  if (status?.state === 'done') return say('uploads.ready')
  return status?.state === 'working'
    ? say('uploads.reading', { percent: Math.round((status.progress ?? 0) * 100) })
    : say('uploads.waitingToBeRead')
}
