import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { seededRandom } from '@/core/random'
import { startDemo } from '@/faults/demo'
import { feed } from '@/faults/feed'
import { fillDisk } from '@/faults/fullDisk'
import { hostileArchives } from '@/faults/hostileArchives'
import { goodFiles, hostileFiles } from '@/faults/hostileMedia'
import { killAndLook, VICTIMS } from '@/faults/kills'
import { TEST_DEMO } from '../scripts/application.mjs'
import { scratch, startApplication, TEST_DATA } from './support/application'

/** A short choice of what `npm run faults` does at length. */

const folder = scratch()
const MOST_MEMORY = 1024 ** 3

test('hostile files end in media or in a sentence; nothing crashes, hangs or takes all memory', async () => {
  const application = await startApplication()
  const processes = () => [application.server.pid, application.worker.pid]
  try {
    const media = hostileFiles(await goodFiles(), 40, seededRandom(2))
    const report = await feed(application.url, media, 'media', processes)
    expect(report.wrong).toEqual([])
    expect(report.refused).toBeGreaterThan(10)
    expect(report.memory.bytes).toBeLessThan(MOST_MEMORY)
    const copies = await feed(application.url, await hostileArchives(16, seededRandom(3)), 'archive', processes)
    expect(copies.wrong).toEqual([])
    expect(copies.memory.bytes).toBeLessThan(MOST_MEMORY)
  } finally {
    await application.stop()
  }
})

/** Who may not mount a small disk can't try it, and says so. */
const canMount = spawnSync('unshare', ['-m', 'mount', '-t', 'tmpfs', 'tmpfs', '/mnt']).status === 0
const testWithDisk = canMount ? test : test.skip

testWithDisk('a full disk loses nothing that was confirmed, and is told as one', async () => {
  expect((await fillDisk(join(folder, 'disk')))!.wrong).toEqual([])
})

test('each part of the demo may be killed while it works: it is up again by itself, and nothing is lost', async () => {
  const demo = await startDemo(TEST_DATA, TEST_DEMO)
  try {
    const { wrong, kills } = await killAndLook(demo, VICTIMS.length + 1, seededRandom(7))
    expect(wrong).toEqual([])
    expect(kills).toBe(VICTIMS.length + 1)
  } finally {
    await demo.stop()
  }
})
