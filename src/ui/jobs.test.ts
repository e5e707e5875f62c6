import { environmentManager } from '@tanstack/react-query'
import type { JobStatus } from '@/core/messages/job'
import { endOf, JobFailed, runJob } from './jobs'

environmentManager.setIsServer(() => false)

/** A server with jobs in it; keeps what it was asked. */
function serve(jobs: Map<string, Partial<JobStatus>>): string[] {
  const asked: string[] = []
  globalThis.fetch = async (input, init) => {
    const url = String(input)
    asked.push(url)
    if (init?.method === 'POST') {
      if (!jobs.has('posted')) jobs.set('posted', { kind: 'scenes', state: 'waiting', progress: 0 })
      return Response.json({ id: 'posted', ...jobs.get('posted') })
    }
    const ids = new URL(url, 'http://here').searchParams.getAll('id')
    return Response.json(ids.flatMap((id) => (jobs.has(id) ? [{ id, ...jobs.get(id) }] : [])))
  }
  return asked
}
const own = globalThis.fetch
afterEach(() => {
  globalThis.fetch = own
})

const moment = () => new Promise((resolve) => setTimeout(resolve, 700))

test('jobs that are waited for are asked for together, each until it has ended', async () => {
  const jobs = new Map<string, Partial<JobStatus>>([
    ['first', { state: 'working', progress: 0.5 }],
    ['second', { state: 'waiting', progress: 0 }],
  ])
  const asked = serve(jobs)
  const told: number[] = []
  const first = endOf('first', { onStatus: ({ progress }) => told.push(progress) })
  const second = endOf('second')
  await moment()
  expect(told).toContain(0.5)
  expect(asked.at(-1)).toBe('/api/jobs?id=first&id=second')
  jobs.set('first', { state: 'done' })
  expect(await first).toMatchObject({ id: 'first', state: 'done' })
  jobs.set('second', { state: 'failed', error: 'No.' })
  expect(await second).toMatchObject({ error: 'No.' })
  const { length } = asked
  await moment()
  expect(asked).toHaveLength(length)
})

test('of more than an address holds, all are asked for', async () => {
  const ids = Array.from({ length: 450 }, (_, i) => `job-${i}`)
  const asked = serve(new Map(ids.map((id) => [id, { state: 'done' as const }])))
  const ended = await Promise.all(ids.map((id) => endOf(id)))
  expect(ended.map((one) => one?.id)).toEqual(ids)
  expect(Math.max(...asked.map((url) => url.length))).toBeLessThan(8000)
})

test('one that the server does not know ends at once, or after a while', async () => {
  const jobs = new Map<string, Partial<JobStatus>>()
  serve(jobs)
  expect(await endOf('gone')).toBeNull()
  const late = endOf('late', { unknownFor: 60_000 })
  await moment()
  jobs.set('late', { state: 'done' })
  expect(await late).toMatchObject({ state: 'done' })
})

test('a server that is away comes back, and one that has forgotten is asked anew', async () => {
  const jobs = new Map<string, Partial<JobStatus>>()
  const asked = serve(jobs)
  const scenes = runJob({ kind: 'scenes', media: 'm', from: 0, to: 1 })
  const there = globalThis.fetch
  globalThis.fetch = () => Promise.reject(new TypeError('no connection'))
  await moment()
  globalThis.fetch = there
  jobs.delete('posted')
  await new Promise((resolve) => setTimeout(resolve, 2500))
  expect(asked.filter((url) => url === '/api/jobs').length).toBeGreaterThan(1)
  jobs.set('posted', { kind: 'scenes', state: 'done', result: { scenes: [2, 3] } })
  expect(await scenes).toEqual({ scenes: [2, 3] })
})

test('what could not be done is told from what is a matter of the connection', async () => {
  serve(new Map([['posted', { kind: 'scenes', state: 'failed', error: 'Only sound.' }]]))
  await expect(runJob({ kind: 'scenes', media: 'm', from: 0, to: 1 })).rejects.toEqual(new JobFailed('Only sound.'))
})
