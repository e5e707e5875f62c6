import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { doWork, workInThreads, type ThreadLimits } from './threads'
import type { WorkName } from './work'

/** Threads that hang, eat all memory or do not break off: they are ended, it is told, and others do their work. */

/** Does what its input says, in place of real work. */
const THREAD = `
import { parentPort } from 'node:worker_threads'
parentPort.on('message', (order) => {
  if ('areYouThere' in order) parentPort.postMessage({ iAmHere: true })
  if (!('name' in order)) return
  const kept = []
  if (order.input === 'hang') for (;;);
  const end = Date.now() + 8000
  if (order.input === 'reckon long') while (Date.now() < end);
  if (order.input === 'eat') for (;;) kept.push({ of: kept.length, all: new Array(1000).fill(kept.length) })
  if (order.input === 'answer' || order.input === 'reckon long') parentPort.postMessage({ done: 42 })
  // What does not break off though it hears everything: nothing is ever answered.
})
`
let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-threads-'))
  await writeFile(join(folder, 'thread.mjs'), THREAD)
})
afterAll(async () => {
  workInThreads(null)
  await rm(folder, { recursive: true })
})
/** Far from the limits that are not what is tested. */
const AMPLE: ThreadLimits = { stuckAfter: 600_000, heap: 4096 }
function work(what: string, limits: Partial<ThreadLimits> = {}, signal?: AbortSignal, name: WorkName = 'import') {
  workInThreads(join(folder, 'thread.mjs'), { ...AMPLE, ...limits })
  return doWork(name, what as never, { signal })
}

test('one that hangs is ended after a while and told as what it is; the next work is done', async () => {
  await expect(work('hang', { stuckAfter: 3000 })).rejects.toThrow('takes longer than it may')
  expect(await work('answer')).toBe(42)
})

test('what reckons long with what was read before is not taken for stuck', async () => {
  expect(await work('reckon long', { stuckAfter: 1000 }, undefined, 'compute')).toBe(42)
})

test('one that takes all memory is ended and told, and this process is not', async () => {
  await expect(work('eat', { heap: 64 })).rejects.toThrow('takes more memory than it may')
  expect(await work('answer')).toBe(42)
})

test.each(['hang', 'never answer'])('one that is broken off ends soon, though it would %s', async (what) => {
  const cancel = new AbortController()
  const working = work(what, {}, cancel.signal)
  setTimeout(() => cancel.abort(), 300)
  await expect(working).rejects.toThrow('aborted')
})
