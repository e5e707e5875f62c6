import { jest } from '@jest/globals'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { emptyLesson, newStep, type Lesson } from '@/core/lesson/document'
import { NotThere } from '@/core/userError'
import { db, isDatabaseAway, pool, transaction } from '@/db/client'
import { createCourse, listCourses } from '@/db/courses'
import { findImport, insertImport } from '@/db/imports'
import { documentOf } from '@/core/lesson/telling'
import { createLesson, listRevisions, loadLesson, nameRevision, saveLesson, thinRevisions } from '@/db/lessons'
import { summaries } from '@/db/summaries'
import { resendLost } from '@/jobs/orphans'
import { prepareQueues, queue, sendJob } from '@/jobs/queue'
import { requestExport, requestImport, requestTask } from '@/jobs/requests'
import { ROOT } from '../scripts/application.mjs'
import { startPostgres } from '../scripts/postgres.mjs'

/** Rows, revisions and jobs on the real PostgreSQL. */

let postgres: Awaited<ReturnType<typeof startPostgres>>
let course: string

beforeAll(async () => {
  const data = join(ROOT, '.yarn-step', 'test-database')
  mkdirSync(data, { recursive: true })
  postgres = await startPostgres(data, { fast: true, fresh: true })
  process.env.DATABASE_URL = postgres.url
  await migrate(db(), { migrationsFolder: join(ROOT, 'src', 'db', 'migrations') })
  await prepareQueues()
  course = await createCourse('Coastal Skipper Basics')
})
afterAll(async () => {
  await pool().end()
  postgres.stop()
})

const card = (id: string) => newStep(id, 'Card', { kind: 'card', lines: ['Card'] })
const lesson = (title = 'Knots'): Lesson => ({ ...emptyLesson(title), steps: [card('a')] })
const jobsFor = async (id: string) => {
  const { rows } = await pool().query(`select state from pgboss.job where data->>'id' = $1`, [id])
  return rows.map(({ state }) => state as string)
}

describe('lessons', () => {
  test('a lesson that could not be opened again is not stored, by whatever way it comes', async () => {
    const long = { ...lesson(), steps: [{ ...card('a'), script: 'x'.repeat(600_000) }] }
    await expect(createLesson(course, long)).rejects.toThrow(/too long to be kept/)
    const id = await createLesson(course, lesson())
    await expect(saveLesson(id, 1, documentOf(long), 'save-long')).rejects.toThrow(/too long to be kept/)
    await expect(saveLesson(id, 1, { format: 2 }, 'save-odd')).rejects.toMatchObject({ name: 'UserError' })
    expect(await loadLesson(id)).toMatchObject({ revision: 1, lesson: lesson() })
  })

  test('one that can not be read is listed as such, and keeps nobody from the others', async () => {
    const id = await createLesson(course, lesson('Good'))
    await pool().query(
      `insert into lessons (id, course_id, revision, document) values ('bad', $1, 1, '{"format": 99, "title": "From the future"}')`,
      [course],
    )
    const [listed] = await listCourses()
    expect(listed!.lessons).toContainEqual({ id: 'bad', title: 'From the future', unreadable: true })
    expect(listed!.lessons).toContainEqual(expect.objectContaining({ id, title: 'Good', steps: 1 }))
    await pool().query(`delete from lessons where id = 'bad'`)
  })

  test('a save whose answer was lost is known when it comes again; any other one on the same base is not done', async () => {
    const id = await createLesson(course, lesson())
    const changed = lesson('Bends')
    expect(await saveLesson(id, 1, documentOf(changed), 'save-0001')).toEqual({ saved: true, revision: 2 })
    expect(await saveLesson(id, 1, documentOf(changed), 'save-0001')).toEqual({ saved: true, revision: 2 })
    expect(await saveLesson(id, 1, documentOf(lesson('Hitches')), 'save-0002')).toMatchObject({
      saved: false,
      revision: 2,
    })
    expect((await loadLesson(id)).lesson.title).toBe('Bends')
    const { rows } = await pool().query('select revision from revisions where lesson_id = $1', [id])
    expect(rows).toHaveLength(2)
  })

  test('many stale saves at once are all told so, and the database goes on', async () => {
    const id = await createLesson(course, lesson())
    await saveLesson(id, 1, documentOf(lesson('First')), 'save-first')
    const stale = Array.from({ length: 40 }, (_, i) =>
      saveLesson(id, 1, documentOf(lesson(`Late ${i}`)), `save-late-${i}`),
    )
    for (const outcome of await Promise.all(stale)) expect(outcome).toMatchObject({ saved: false, revision: 2 })
    expect((await loadLesson(id)).lesson.title).toBe('First')
  })

  test('two saves at the same time: one is done, the other is told', async () => {
    const id = await createLesson(course, lesson())
    const outcomes = await Promise.all([
      saveLesson(id, 1, documentOf(lesson('A')), 'save-a00'),
      saveLesson(id, 1, documentOf(lesson('B')), 'save-b00'),
    ])
    expect(outcomes.filter(({ saved }) => saved)).toHaveLength(1)
  })
})

describe('lists and versions', () => {
  test('a list reads no documents: it shows what stands beside them', async () => {
    const id = await createLesson(course, lesson('Listed'))
    await pool().query(`update lessons set document = '{"format": 3, "title": "Not read"}' where id = $1`, [id])
    const find = async () => (await listCourses()).flatMap(({ lessons }) => lessons).find((one) => one.id === id)
    expect(await find()).toMatchObject({ title: 'Listed', steps: 1 })
    await pool().query('delete from lessons where id = $1', [id])
  })

  test('of a lesson that was stored before, what lists say is made once', async () => {
    const id = await createLesson(course, lesson('Old'))
    await pool().query('update lessons set summary = null where id = $1', [id])
    expect((await summaries(course)).find((one) => one.id === id)!.summary).toMatchObject({ title: 'Old' })
    const { rows } = await pool().query(`select summary->>'title' as title from lessons where id = $1`, [id])
    expect(rows).toEqual([{ title: 'Old' }])
  })

  test('versions are thinned while one saves; those with a name, the first and what is being made stay', async () => {
    const id = await createLesson(course, lesson())
    for (let i = 1; i < 20; i++) await saveLesson(id, i, documentOf(lesson(`Version ${i + 1}`)), `save-thin-${i}`)
    await nameRevision(id, 7, ' Before the new deck ')
    await requestExport(id, 9, 'sound')
    const old = `update revisions set saved_at = date_trunc('day', now()) - interval '3 days' + revision * interval '1 second' where lesson_id = $1`
    await pool().query(old, [id])
    await thinRevisions(id)
    const kept = await listRevisions(id)
    expect(kept.map(({ revision }) => revision)).toEqual([20, 9, 7, 1])
    expect(kept.find(({ revision }) => revision === 7)!.name).toBe('Before the new deck')
    await nameRevision(id, 7, '')
    await thinRevisions(id)
    expect((await listRevisions(id)).map(({ revision }) => revision)).toEqual([20, 9, 1])
    await expect(nameRevision(id, 7, 'x')).rejects.toBeInstanceOf(NotThere)
  })
})

describe('jobs', () => {
  const row = (id: string) => ({ id, name: 'tone.wav', purpose: 'media' as const, courseId: null })

  test('row and job are made together, or not at all', async () => {
    await requestImport(row('together'))
    expect(await jobsFor('together')).toEqual(['created'])
    const failing = transaction(async (tx) => {
      await insertImport(tx, row('neither'))
      await sendJob(tx, 'import', 'neither')
      throw new Error('in the middle')
    })
    await expect(failing).rejects.toThrow('in the middle')
    expect(await findImport('neither')).toBeNull()
    expect(await jobsFor('neither')).toEqual([])
  })

  test('asking twice for the same work makes one job', async () => {
    await Promise.all([requestImport(row('twice')), requestImport(row('twice'))])
    expect(await jobsFor('twice')).toEqual(['created'])
    const input = { kind: 'scenes', media: 'a'.repeat(64), from: 0, to: 1 } as const
    const [first, second] = await Promise.all([requestTask(input), requestTask(input)])
    expect(first).toBe(second)
    expect(await jobsFor(first)).toEqual(['created'])
  })

  test('a row that waits without a job gets one, and one that has a job keeps it', async () => {
    const id = await createLesson(course, lesson())
    const kept = await requestExport(id, 1, 'sound')
    const lost = await requestExport(id, 1, 'video')
    await pool().query(`delete from pgboss.job where data->>'id' = $1`, [lost])
    expect(await resendLost()).toBe(1)
    expect(await jobsFor(lost)).toEqual(['created'])
    expect(await jobsFor(kept)).toEqual(['created'])
    expect(await resendLost()).toBe(0)
  })

  test('a job that nobody could be given because the clock was set back is given again', async () => {
    await requestImport(row('tomorrow'))
    await pool().query(`update pgboss.job set start_after = now() + interval '1 day' where data->>'id' = 'tomorrow'`)
    const { recoverOrphans } = await import('@/jobs/orphans')
    await recoverOrphans(async () => {})
    const { rows } = await pool().query(
      `select start_after <= now() as due from pgboss.job where data->>'id' = 'tomorrow'`,
    )
    expect(rows).toEqual([{ due: true }])
  })
})

describe('a database that goes away', () => {
  test('connections that are lost are replaced, and nothing ends by it', async () => {
    const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
    await Promise.all(Array.from({ length: 8 }, () => pool().query('select 1')))
    const admin = new pg.Client({ connectionString: postgres.url })
    await admin.connect()
    await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid()')
    await admin.end()
    await new Promise((resolve) => setTimeout(resolve, 200))
    expect((await pool().query('select 1 as one')).rows).toEqual([{ one: 1 }])
    quiet.mockRestore()
  })

  test('while it is away everybody is told so; when it is back, all goes on without a restart', async () => {
    const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
    postgres.stop()
    const error = await pool()
      .query('select 1')
      .catch((failed: unknown) => failed)
    expect(isDatabaseAway(error)).toBe(true)
    const sending = await requestImport({ id: 'away', name: 'x', purpose: 'media', courseId: null }).catch(
      (failed: unknown) => failed,
    )
    expect(isDatabaseAway(sending)).toBe(true)
    postgres.start()
    await requestImport({ id: 'away', name: 'x', purpose: 'media', courseId: null })
    expect(await jobsFor('away')).toEqual(['created'])
    expect(await queue().fetch('import')).toHaveLength(1)
    quiet.mockRestore()
  })

  test('what is wrong with a request is not taken for that', async () => {
    const error = await pool()
      .query('select $1::int', ['x'])
      .catch((failed: unknown) => failed)
    expect(isDatabaseAway(error)).toBe(false)
  })
})
