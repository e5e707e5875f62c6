import type { JobStatus } from '@/core/messages/job'
import { until } from '@/faults/client'
import { createArrivals, isDone, type Arrivals } from './arrivals'
import type { startUpload, UploadEvents } from './upload'

/** Files on their way, against a sender and a server that are told what to do. */

interface Sent {
  events: UploadEvents
  isCancelled: boolean
}
let sent: Sent[]
let asked: string[]
let statuses: Partial<JobStatus>[]
let leaving: ((event: Event) => void)[]
const own = { fetch: globalThis.fetch, window: globalThis.window }

const start: typeof startUpload = (_file, _aim, events) => {
  const one: Sent = { events, isCancelled: false }
  sent.push(one)
  return async () => void (one.isCancelled = true)
}

beforeAll(() => {
  leaving = []
  const addEventListener = (_name: string, listener: (event: Event) => void) => leaving.push(listener)
  const answer = async (path: unknown, options?: RequestInit) => {
    if (options?.method !== 'GET') asked.push(`${options?.method} ${String(path)}`)
    return Response.json(options?.method === 'GET' ? statuses : { ok: true })
  }
  const request = async (_name: string, ...rest: unknown[]) => (rest.at(-1) as (lock: object) => unknown)({})
  const localStorage = { getItem: () => 'this-browser' }
  Object.assign(globalThis, { fetch: answer, window: { addEventListener }, localStorage })
  Object.defineProperty(globalThis, 'navigator', { value: { locks: { request } }, configurable: true })
})
afterAll(() => void Object.assign(globalThis, own))
beforeEach(() => {
  ;[sent, asked, statuses] = [[], [], []]
})

const file = new File(['mast'], 'mast.png')
const arrivalsFor = (lesson: string | null) => createArrivals({ purpose: 'media', course: null, lesson }, start)
/** Whether the page asks before it goes. */
function isAsked(): boolean {
  let asks = false
  for (const listener of leaving) listener({ preventDefault: () => (asks = true) } as unknown as Event)
  return asks
}
const settled = (arrivals: Arrivals) => until(async () => arrivals.getState().every(isDone) || null, 'importing')

test('a page is left with a question for as long as bytes are under way, and without one afterwards', async () => {
  const arrivals = arrivalsFor('l')
  expect(isAsked()).toBe(false)
  arrivals.add([file])
  expect(isAsked()).toBe(true)
  statuses = [{ id: 'one', kind: 'import', state: 'done', progress: 1, error: null, result: null }]
  sent[0]!.events.onWhole('one')
  expect(isAsked()).toBe(false)
  await settled(arrivals)
  arrivals.add([file])
  sent[1]!.events.onError('The connection was lost.')
  expect(isAsked()).toBe(false)
  arrivals.close()
})

test('what is dropped while it is sent is broken off, and is no arrival of its lesson any more', async () => {
  const arrivals = arrivalsFor('l')
  const [key] = arrivals.add([file])
  sent[0]!.events.onBegun('half')
  arrivals.drop(key!)
  await until(async () => asked.length > 0 || null, 'telling')
  expect([sent[0]!.isCancelled, asked]).toEqual([true, ['DELETE /api/arrivals/half']])
  expect(arrivals.getState()).toEqual([])
})

test('what is dropped while it is read in is not read in any further, with a lesson or without one', async () => {
  statuses = [{ id: 'whole', kind: 'import', state: 'working', progress: 0.1, error: null, result: null }]
  for (const lesson of ['l', null]) {
    const arrivals = arrivalsFor(lesson)
    const [key] = arrivals.add([file])
    const { events, isCancelled } = sent.at(-1)!
    events.onBegun('whole')
    events.onWhole('whole')
    arrivals.drop(key!)
    await until(async () => asked.length > (lesson ? 0 : 1) || null, 'telling')
    expect(isCancelled).toBe(false)
  }
  expect(asked).toEqual(['DELETE /api/arrivals/whole', 'DELETE /api/jobs/whole'])
  // Nobody asks for it any more, either.
  statuses = [{ id: 'whole', kind: 'import', state: 'cancelled', progress: 0, error: null, result: null }]
})

test('closing breaks off only what is still sent; what was taken or has ended stays as it is', () => {
  const arrivals = arrivalsFor('l')
  const [taken] = arrivals.add([file, file, file])
  arrivals.take(taken!)
  sent[1]!.events.onError('This file is larger.')
  arrivals.close()
  expect(sent.map(({ isCancelled }) => isCancelled)).toEqual([false, false, true])
  expect(isAsked()).toBe(false)
})
