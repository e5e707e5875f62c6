import { mkdirSync, mkdtempSync } from 'node:fs'
import { mkdir, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep } from '@/core/lesson/newParts'
import { documentOf } from '@/core/lesson/telling'
import { USUAL_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { tones } from '@/core/testing/signals'
import { spaceOfCourses, unneededSince } from '@/db/assets'
import { finishJob, insertJob } from '@/db/jobs'
import { db, pool, transaction } from '@/db/client'
import { assets, jobs } from '@/db/schema'
import { createCourse } from '@/db/courses'
import { deleteLesson } from '@/db/deleted'
import { createLesson, saveLesson } from '@/db/lessons'
import { finishArrival, openArrival } from '@/db/arrivals'
import { clearAway } from '@/jobs/clearAway'
import { prepareQueues } from '@/jobs/queue'
import { assetStore, mediaStore, recordingsFolder, uploadsFolder } from '@/jobs/places'
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

const inStore = async () => new Set((await mediaStore().stock()).keys())
/** As if it had been found so many days ago that nothing needs it. */
const unneededFor = (media: string, days: number) =>
  db()
    .update(assets)
    .set({ unneededSince: new Date(Date.now() - days * DAY) })
    .where(eq(assets.name, media))

const clear = async (options = {}) => (await clearAway(options))!

test('what a lesson or a kept version of it needs stays; what nothing needs goes after its grace time, not before', async () => {
  const [used, earlier, unused] = [await sound(-20), await sound(-21), await sound(-22)]
  const id = await createLesson(course, speaking(earlier))
  await saveLesson(id, 1, documentOf(speaking(used)), 'save-0001')
  expect((await clear()).media).toMatchObject({ unneeded: 1, count: 0 })
  expect(await inStore()).toEqual(new Set([used, earlier, unused]))
  // A month later.
  await unneededFor(unused, 31)
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
  const mark = async () => (await unneededSince()).get(media)
  expect(await mark()).toBeDefined()
  const id = await createLesson(course, speaking(media))
  await clear()
  expect(await mark()).toBeUndefined()
  // A month after it was deleted it is deleted for good.
  await deleteLesson(id)
  await clear()
  expect(await mark()).toBeUndefined()
  await pool().query(`update lessons set deleted_at = now() - interval '31 days' where id = $1`, [id])
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
  await openArrival({
    id: 'still-waiting',
    lessonId: id,
    kind: 'voice',
    details: { marks: [{ step: 's', at: 0 }], rate: 48000 } as never,
    owner: 'me',
  })
  for (const file of ['broken-off', 'under-way'])
    await openArrival({ id: file, lessonId: id, kind: 'file', name: `${file}.mp4`, owner: 'me' })
  await pool().query(
    `update arrivals set heard_at = now() - interval '8 days' where id in ('broken-off', 'still-waiting')`,
  )
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
  const { rows } = await pool().query('select id from arrivals where lesson_id = $1 order by id', [id])
  expect(rows.map((row) => (row as { id: string }).id)).toEqual(['still-waiting', 'under-way'])
})

test('who is killed in the middle of clearing away loses nothing that is needed again', async () => {
  const [needed, gone] = [await sound(-26), await sound(-27)]
  const store = mediaStore()
  await createLesson(course, speaking(needed))
  for (const media of [needed, gone]) await store.setAside(media)
  expect(await store.has(needed)).toBe(false)
  await clear()
  expect(await store.has(needed)).toBe(true)
  expect((await store.info(needed)).hash).toBe(needed)
  // What nothing needs is not found; brought in again, it is there.
  expect(await store.has(gone)).toBe(false)
  expect(await sound(-27)).toBe(gone)
  expect((await store.info(gone)).hash).toBe(gone)
  await clear({ graceDays: 0 })
  expect(await inStore()).toContain(needed)
  expect(await inStore()).not.toContain(gone)
})

test('what was made of media that are gone goes with them', async () => {
  const media = await sound(-28)
  const recipe = { kind: 'alignment', edition: 1, sources: [media], recipe: ['words'], extension: 'json' } as const
  await assetStore().bytes(recipe, async () => Buffer.from('[]'))
  await clear()
  expect(await assetStore().find(recipe)).not.toBeNull()
  await clear({ graceDays: 0 })
  expect(await assetStore().find(recipe)).toBeNull()
})

test('of coded pictures the oldest go where they take more than their room', async () => {
  const coded = join(folder, 'coded', 'ab')
  await mkdir(coded, { recursive: true })
  // Kept by an edition that wrote nothing down.
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
  await unneededFor(media, 31)
  const said = (await headless('gc', '--dry-run')) as { dryRun: boolean; media: { count: number } }
  expect(said).toMatchObject({ dryRun: true })
  expect(said.media.count).toBeGreaterThanOrEqual(1)
  expect(await inStore()).toContain(media)
  await headless('gc')
  expect(await inStore()).not.toContain(media)
})

test('a course tells how much room it takes: its files, what is made of them, and finished files', async () => {
  const media = await sound(-29)
  const own = await createCourse('Knots')
  const lesson = await createLesson(own, speaking(media))
  const recipe = { kind: 'coded', edition: 1, sources: [media], recipe: [1], extension: 'h264' } as const
  await assetStore().bytes(recipe, async () => Buffer.alloc(1234))
  const file = { kind: 'export', lesson, revision: 1, file: 'sound', language: null } as const
  const { id } = await transaction((tx) => insertJob(tx, file))
  await finishJob<'export'>(id, { balance: null, bytes: 777 })
  await clear()
  const bytes = (await mediaStore().stock()).get(media)!.bytes
  expect((await spaceOfCourses())[own]).toEqual({ files: bytes, kept: 1234, made: 777 })
  await saveLesson(lesson, 1, documentOf(emptyLesson('Knots')), 'save-0009')
  expect((await spaceOfCourses())[own]).toEqual({ files: 0, kept: 0, made: 777 })
})

test('rows of jobs that ended long ago go; those of finished files and of recordings that wait for their lesson stay', async () => {
  const lesson = await createLesson(course, emptyLesson('Old'))
  const hash = 'cd'.repeat(32)
  const rows = [
    { id: 'old-import', kind: 'import', input: { kind: 'import', name: 'x', purpose: 'media', course: null } },
    { id: 'waiting', kind: 'import', input: { kind: 'import', name: 'x', purpose: 'recording', course: null } },
    { id: 'old-scenes', kind: 'scenes', input: { kind: 'scenes', media: hash, from: 0, to: 1 } },
    { id: 'file', kind: 'export', input: { kind: 'export', lesson, revision: 1, file: 'sound', language: null } },
  ] as const
  const created = new Date(Date.now() - 100 * DAY)
  await db()
    .insert(jobs)
    .values(rows.map((row) => ({ ...row, state: 'done' as const, createdAt: created })))
  await openArrival({ id: 'waiting', lessonId: lesson, kind: 'voice', details: { marks: [] } as never, owner: 'me' })
  await finishArrival('waiting', db())
  expect((await clear({ dryRun: true })).jobs).toEqual({ count: 2 })
  expect((await clear()).jobs).toEqual({ count: 2 })
  const left = (await db().select({ id: jobs.id }).from(jobs)).map(({ id }) => id)
  expect(left).toEqual(expect.arrayContaining(['waiting', 'file']))
  expect(left).not.toContain('old-import')
  expect(left).not.toContain('old-scenes')
})

test('two at once: one clears, the other is told', async () => {
  const both = await Promise.all([clearAway(), clearAway()])
  expect(both.filter((one) => one === null).length).toBeLessThanOrEqual(1)
  expect(both.some((one) => one !== null)).toBe(true)
})
