import { mkdirSync, mkdtempSync } from 'node:fs'
import { mkdir, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { writeWav } from '@/core/formats/wav'
import { emptyLesson, newStep, type Lesson } from '@/core/lesson/document'
import { documentOf } from '@/core/lesson/telling'
import { USUAL_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { tones } from '@/core/testing/signals'
import { db, pool } from '@/db/client'
import { createCourse } from '@/db/courses'
import { createLesson, deleteLesson, saveLesson } from '@/db/lessons'
import { openRecording } from '@/db/recordings'
import { clearAway } from '@/jobs/clearAway'
import { prepareQueues } from '@/jobs/queue'
import { mediaStore, recordingsFolder, uploadsFolder } from '@/jobs/places'
import { cleanedKey, cleanMedia } from '@/media/cleaning'
import { importMedia } from '@/media/import/import'
import { ROOT } from '../scripts/application.mjs'
import { startPostgres } from '../scripts/postgres.mjs'
import { headless } from './support/application'

/** What is cleared away, and above all what is not: on the real PostgreSQL and real files. */

let postgres: Awaited<ReturnType<typeof startPostgres>>
let course: string
const folder = mkdtempSync(join(tmpdir(), 'yarn-step-clearing-'))
const DAY = 24 * 3600 * 1000

beforeAll(async () => {
  const data = join(ROOT, '.yarn-step', 'test-clearing')
  mkdirSync(data, { recursive: true })
  postgres = await startPostgres(data, { fast: true, fresh: true })
  process.env.DATABASE_URL = postgres.url
  process.env.YARN_STEP_DATA = folder
  process.env.YARN_STEP_CODED_BYTES = '2500'
  await migrate(db(), { migrationsFolder: join(ROOT, 'src', 'db', 'migrations') })
  await prepareQueues()
  course = await createCourse('Coastal Skipper Basics')
})
afterAll(async () => {
  await pool().end()
  postgres.stop()
  await rm(folder, { recursive: true, force: true })
})

/** A sound of its own, in the store. */
async function sound(level: number): Promise<string> {
  const file = join(folder, `${-level}.wav`)
  await writeFile(file, writeWav([tones([[level, 1]])], 48000))
  return (await importMedia(mediaStore(), file, 'tone.wav')).hash
}

function speaking(media: string): Lesson {
  const step = newStep('s', 'Step', { kind: 'card', lines: ['Card'] })
  return { ...emptyLesson('Knots'), steps: [{ ...step, passages: [{ id: 'p', media, from: 0, to: 1, pause: 0 }] }] }
}

const inStore = async () => new Set(await mediaStore().all())
const clear = async (options = {}) => (await clearAway(options))!

test('what a lesson or a kept version of it needs stays; what nothing needs goes after its grace time, not before', async () => {
  const [used, earlier, unused] = [await sound(-20), await sound(-21), await sound(-22)]
  const id = await createLesson(course, speaking(earlier))
  await saveLesson(id, 1, documentOf(speaking(used)), 'save-0001')
  expect((await clear()).media).toMatchObject({ unneeded: 1, count: 0 })
  expect(await inStore()).toEqual(new Set([used, earlier, unused]))
  // A month later.
  const mark = mediaStore().path(unused, 'unneeded')
  await utimes(mark, new Date(), new Date(Date.now() - 31 * DAY))
  const dry = await clear({ dryRun: true })
  expect(dry.media).toMatchObject({ unneeded: 1, count: 1 })
  expect(dry.media.bytes).toBeGreaterThan(48000 * 4)
  expect(await inStore()).toContain(unused)
  expect((await clear()).media).toMatchObject({ count: 1, bytes: dry.media.bytes })
  expect(await inStore()).toEqual(new Set([used, earlier]))
})

test('what is needed again in the meantime is not counted from before', async () => {
  const media = await sound(-23)
  await clear()
  const mark = () => mediaStore().unneededSince(media)
  expect(await mark()).not.toBeNull()
  const id = await createLesson(course, speaking(media))
  await clear()
  expect(await mark()).toBeNull()
  await deleteLesson(id)
  await clear()
  expect(Date.now() - (await mark())!.getTime()).toBeLessThan(60_000)
})

test('of cleaned voices those stay that lessons are set to now', async () => {
  const media = await sound(-24)
  const store = mediaStore()
  const set = { ...USUAL_CLEAN_UP, noise: { on: false, amount: 0.5 }, levelling: { on: false, amount: 0.5 } }
  const before = { ...set, rumble: { on: true, below: 120 } }
  for (const cleanUp of [set, before]) await cleanMedia(store, media, cleanUp, null)
  await createLesson(course, { ...speaking(media), cleanUp: set })
  await clear({ graceDays: 0 })
  expect(await store.has(cleanedKey(media, set, null))).toBe(true)
  expect(await store.has(cleanedKey(media, before, null))).toBe(false)
})

test('unfinished uploads go after a week; a recording that is not in its lesson never does', async () => {
  const id = await createLesson(course, emptyLesson('Voices'))
  await openRecording('still-waiting', id, 'voice', { marks: [{ step: 's', at: 0 }], rate: 48000 } as never)
  const old = new Date(Date.now() - 8 * DAY)
  const files: [string, string, Date][] = [
    [uploadsFolder(), 'broken-off', old],
    [uploadsFolder(), 'broken-off.json', old],
    [uploadsFolder(), 'under-way', new Date()],
    [recordingsFolder(), 'still-waiting.part', old],
    [recordingsFolder(), 'long-taken.part', old],
  ]
  for (const [place, name, changed] of files) {
    await mkdir(place, { recursive: true })
    await writeFile(join(place, name), 'x')
    await utimes(join(place, name), changed, changed)
  }
  const cleared = await clear()
  expect(cleared).toMatchObject({ uploads: { count: 2, bytes: 2 }, recordings: { count: 1 } })
  expect(await readdir(uploadsFolder())).toEqual(['under-way'])
  expect(await readdir(recordingsFolder())).toEqual(['still-waiting.part'])
})

test('of coded pictures the oldest go where they take more than their room', async () => {
  const coded = join(folder, 'coded', 'ab')
  await mkdir(coded, { recursive: true })
  for (const [name, age] of [
    ['new', 1],
    ['older', 2],
    ['oldest', 3],
  ] as const) {
    await writeFile(join(coded, name), Buffer.alloc(1000))
    await utimes(join(coded, name), new Date(), new Date(Date.now() - age * DAY))
  }
  expect((await clear()).coded).toEqual({ count: 1, bytes: 1000 })
  expect((await readdir(coded)).sort()).toEqual(['new', 'older'])
})

test('the command says what would go, and leaves it where it is', async () => {
  const media = await sound(-25)
  await clear()
  await utimes(mediaStore().path(media, 'unneeded'), new Date(), new Date(Date.now() - 31 * DAY))
  const said = (await headless('gc', '--dry-run')) as { dryRun: boolean; media: { count: number } }
  expect(said).toMatchObject({ dryRun: true })
  expect(said.media.count).toBeGreaterThanOrEqual(1)
  expect(await inStore()).toContain(media)
  await headless('gc')
  expect(await inStore()).not.toContain(media)
})

test('two at once: one clears, the other is told', async () => {
  const both = await Promise.all([clearAway(), clearAway()])
  expect(both.filter((one) => one === null).length).toBeLessThanOrEqual(1)
  expect(both.some((one) => one !== null)).toBe(true)
})
