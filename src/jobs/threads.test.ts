import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Threads that hang, eat all memory or do not break off: they are ended, it is told, and others do their work. */

process.env.YARN_STEP_STUCK_AFTER = '6000'
const { doWork, workInThreads } = await import('./threads')

/** Does what its input says, in place of real work. */
const THREAD = `
import { parentPort } from 'node:worker_threads'
parentPort.on('message', (order) => {
  if ('areYouThere' in order) parentPort.postMessage({ iAmHere: true })
  if (!('name' in order)) return
  const kept = []
  if (order.input === 'hang') for (;;);
  if (order.input === 'eat') for (;;) kept.push({ of: kept.length, all: new Array(1000).fill(kept.length) })
  if (order.input === 'answer') parentPort.postMessage({ done: 42 })
  // What does not break off though it hears everything: nothing is ever answered.
})
`
let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-threads-'))
  await writeFile(join(folder, 'thread.mjs'), THREAD)
  workInThreads(join(folder, 'thread.mjs'))
})
afterAll(async () => {
  workInThreads(null)
  await rm(folder, { recursive: true })
})
const work = (what: string, signal?: AbortSignal) => doWork('compute', what as never, { signal })

test('one that hangs is ended after a while and told as what it is; the next work is done', async () => {
  await expect(work('hang')).rejects.toThrow('takes longer than it may')
  expect(await work('answer')).toBe(42)
})

test('one that takes all memory is ended and told, and this process is not', async () => {
  await expect(work('eat')).rejects.toThrow('takes more memory than it may')
  expect(await work('answer')).toBe(42)
})

test.each(['hang', 'never answer'])('one that is broken off ends soon, though it would %s', async (what) => {
  const cancel = new AbortController()
  const working = work(what, cancel.signal)
  setTimeout(() => cancel.abort(), 300)
  await expect(working).rejects.toThrow('aborted')
})
