import { mkdtempSync, readFileSync } from 'node:fs'
import { rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { LEAVING_A_BERTH } from '@/demo/leavingABerth'
import { doWork, workInThreads } from '@/jobs/threads'
import { ROOT } from '../scripts/application.mjs'
import { headless, output } from './support/application'

/** Work in threads: the loop of who asks stays free, results are the same, and it can be broken off. */

const folder = mkdtempSync(join(tmpdir(), 'yarn-step-threads-'))
const script = LEAVING_A_BERTH[0]!.words
const reading = join(folder, 'reading.wav')
let media: { hash: string; length: number | null }

beforeAll(async () => {
  process.env.YARN_STEP_DATA = folder
  workInThreads(null)
  await writeFile(join(folder, 'script.txt'), script)
  await headless('say', join(folder, 'script.txt'), '--out', reading)
  media = await doWork('import', { path: reading, name: 'reading.wav' })
})
afterAll(async () => {
  workInThreads(null)
  await rm(folder, { recursive: true, force: true })
})

/** Nothing is kept of what was found before. */
async function align(options = {}) {
  await rm(join(folder, 'alignment'), { recursive: true, force: true })
  const input = { kind: 'align', media: media.hash, from: 0, to: media.length!, script, language: 'en' } as const
  return doWork('compute', input, options)
}

/** Does something and tells for how long this thread computed meanwhile, in ms: its loop is free for all the rest. */
async function busy<T>(work: () => Promise<T>): Promise<{ result: T; computed: number }> {
  const before = computedHere()
  const result = await work()
  return { result, computed: computedHere() - before }
}

/** Of the main thread alone, by the kernel's count: other programs on the machine change nothing of it. */
const computedHere = () => Number(readFileSync('/proc/self/schedstat', 'utf8').split(' ')[0]) / 1e6

test('an alignment in a thread finds the same, and leaves who asks for it free', async () => {
  const here = await busy(() => align())
  workInThreads(join(ROOT, 'dist', 'thread.mjs'))
  // The first time a thread is begun and its code loaded.
  await align()
  const there = await busy(() => align())
  console.log(
    `computed for ${here.computed.toFixed(0)} ms in its own loop, ${there.computed.toFixed(0)} ms beside a thread`,
  )
  expect(there.result).toEqual(here.result)
  expect(there.computed).toBeLessThan(here.computed / 10)
})

test('progress comes while it works, and what fails says why', async () => {
  workInThreads(join(ROOT, 'dist', 'thread.mjs'))
  const heard: number[] = []
  await align({ onProgress: (share: number) => heard.push(share) })
  expect(heard.length).toBeGreaterThan(2)
  expect(heard.at(-1)).toBe(1)
  const broken = doWork('import', { path: join(folder, 'nothing.mp3'), name: 'nothing.mp3' })
  await expect(broken).rejects.toMatchObject({ name: 'UserError' })
})

test('what is broken off ends soon, and the next work is done', async () => {
  workInThreads(join(ROOT, 'dist', 'thread.mjs'))
  const cancel = new AbortController()
  const file = join(folder, 'hour.wav')
  await output('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'anoisesrc=duration=3600:sample_rate=48000', file])
  const work = doWork('import', { path: file, name: 'hour.wav' }, { signal: cancel.signal })
  setTimeout(() => cancel.abort(), 500)
  await expect(work).rejects.toMatchObject({ name: 'AbortError' })
  expect(await doWork('import', { path: reading, name: 'reading.wav' })).toMatchObject({
    hash: media.hash,
  })
})
