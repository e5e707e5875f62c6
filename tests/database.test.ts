import { jest } from '@jest/globals'
import { mkdirSync } from 'node:fs'
import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import pg from 'pg'
import { eq } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newStep, newStill } from '@/core/lesson/newParts'
import { jobResultSchemas } from '@/core/messages/job'
import { jobInputSchema, type JobKind } from '@/core/messages/jobInput'
import { NotThere, Overtaken } from '@/core/userError'
import { db, isDatabaseAway, pool, transaction } from '@/db/client'
import { DELETE as cancelRoute } from '@/app/api/jobs/[id]/route'
import { styleOf } from '@/core/course/courseStyle'
import { NO_ENDS, stepsAtEnd } from '@/core/course/sharedSteps'
import { finishArrival, openArrival, updateArrival, waitingCounts } from '@/db/arrivals'
import { createCourseWith } from '@/db/courseCopies'
import { courseEnds, setCourseEnd } from '@/db/courseEnds'
import {
  courseDelivery,
  createCourse,
  listCourses,
  orderLessons,
  changeDelivery,
  changePronunciations,
  pronunciationsOf,
} from '@/db/courses'
import { courseStyle, setCourseStyle } from '@/db/courseStyles'
import { cancelJob, exportsOfLesson, failJob, findJob, finishJob, insertJob, loadJob, reportProgress } from '@/db/jobs'
import { documentOf } from '@/core/lesson/telling'
import { createLesson, listRevisions, loadLesson, nameRevision, saveLesson, thinRevisions } from '@/db/lessons'
import { hashesNeeded } from '@/db/references'
import { courses } from '@/db/schema'
import { summaries } from '@/db/summaries'
import { letGo, recoverOrphans, resendLost, takeJob } from '@/jobs/orphans'
import { connectWatched } from '@/jobs/presence'
import { prepareQueues, queue, sendJob } from '@/jobs/queue'
import { requestImport, requestJob } from '@/jobs/requests'
import { ROOT } from '../scripts/application.mjs'
import { startPostgres } from '../scripts/postgres.mjs'
import { until } from './support/application'

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
    const file = { kind: 'export', lesson: id, revision: 9, file: 'sound', language: null } as const
    await transaction(async (tx) => sendJob(tx, 'export', (await insertJob(tx, file)).id))
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
  const tone = { name: 'tone.wav', purpose: 'media', course: null } as const

  test('row and job are made together, or not at all', async () => {
    await requestImport('together', tone)
    expect(await jobsFor('together')).toEqual(['created'])
    const failing = transaction(async (tx) => {
      await insertJob(tx, { kind: 'import', ...tone }, 'neither')
      await sendJob(tx, 'import', 'neither')
      throw new Error('in the middle')
    })
    await expect(failing).rejects.toThrow('in the middle')
    expect(await findJob('neither')).toBeNull()
    expect(await jobsFor('neither')).toEqual([])
  })

  test('asking twice for the same work makes one job', async () => {
    await Promise.all([requestImport('twice', tone), requestImport('twice', tone)])
    expect(await jobsFor('twice')).toEqual(['created'])
    const input = { kind: 'scenes', media: 'a'.repeat(64), from: 0, to: 1 } as const
    const [first, second] = await Promise.all([requestJob(input), requestJob(input)])
    expect(first).toBe(second)
    expect(await jobsFor(first)).toEqual(['created'])
  })

  test('a file is made of what is saved now; of a lesson that is gone nothing is asked', async () => {
    const id = await createLesson(course, lesson())
    await saveLesson(id, 1, documentOf(lesson('Later')), 'save-later')
    const made = await requestJob({ kind: 'export', lesson: id, file: 'sound', language: 'de' })
    expect((await loadJob(made, 'export')).input).toMatchObject({ revision: 2, language: 'de' })
    const told = async (revision: number) =>
      (await exportsOfLesson(id, revision)).map((one) => ({ id: one.id, isOutdated: one.isOutdated }))
    expect(await told(2)).toEqual([{ id: made, isOutdated: false }])
    expect(await told(3)).toEqual([{ id: made, isOutdated: true }])
    await expect(loadJob(made, 'import')).rejects.toBeInstanceOf(NotThere)
    for (const asked of [
      { kind: 'export', lesson: 'nothing', file: 'sound', language: null },
      { kind: 'balance', lesson: 'nothing', revision: 1 },
    ] as const)
      await expect(requestJob(asked)).rejects.toBeInstanceOf(NotThere)
  })

  test('what one asked for alone can be cancelled; what others may wait for too goes on', async () => {
    const cancel = async (id: string) =>
      (await cancelRoute(new Request('http://x'), { params: Promise.resolve({ id }) })).status
    const brought = await requestImport('brought-in', tone)
    const id = await createLesson(course, lesson('Whose'))
    await openArrival({ id: 'for-a-lesson', lessonId: id, kind: 'file', name: 'tone.wav', owner: 'me' })
    const own = await requestImport('for-a-lesson', tone)
    expect([await cancel(own), (await findJob(own))?.state]).toEqual([400, 'waiting'])
    const shared = await requestJob({ kind: 'scenes', media: 'b'.repeat(64), from: 0, to: 1 })
    expect([await cancel(brought), (await findJob(brought))?.state]).toEqual([200, 'cancelled'])
    expect([await cancel(shared), (await findJob(shared))?.state]).toEqual([404, 'waiting'])
  })

  test('one that was cancelled stays so, whatever its worker still says; one that failed is begun again', async () => {
    const id = await requestImport('cancelled', tone)
    expect(await reportProgress(id, 0.5)).toBe(true)
    expect(await findJob(id)).toMatchObject({ state: 'working', progress: 0.5 })
    expect(await cancelJob(id)).toBe(true)
    expect(await reportProgress(id, 0.6)).toBe(false)
    expect(await finishJob<'import'>(id, { media: null, lesson: null, course: null })).toBe(false)
    await failJob(id, 'Too late.', 'fault')
    expect(await findJob(id)).toMatchObject({ state: 'cancelled', error: null, result: null })
    await requestImport('cancelled', tone)
    await failJob(id, 'This can not be read.', 'refused')
    expect(await findJob(id)).toMatchObject({ state: 'failed', error: 'This can not be read.', errorCode: 'refused' })
    await requestImport('cancelled', tone)
    expect(await findJob(id)).toMatchObject({ state: 'waiting', error: null, errorCode: null })
  })

  test('a row that waits without a job gets one, and one that has a job keeps it', async () => {
    const id = await createLesson(course, lesson())
    const kept = await requestJob({ kind: 'export', lesson: id, file: 'sound', language: null })
    const lost = await requestJob({ kind: 'export', lesson: id, file: 'video', language: null })
    await pool().query(`delete from pgboss.job where data->>'id' = $1`, [lost])
    expect(await resendLost()).toBe(1)
    expect(await jobsFor(lost)).toEqual(['created'])
    expect(await jobsFor(kept)).toEqual(['created'])
    expect(await resendLost()).toBe(0)
  })

  test('a file that another edition has made keeps nobody from the list of the others', async () => {
    const id = await createLesson(course, lesson())
    const kept = await requestJob({ kind: 'export', lesson: id, file: 'sound', language: null })
    const odd = await requestJob({ kind: 'export', lesson: id, file: 'video', language: null })
    await pool().query(`update jobs set input = jsonb_set(input, '{file}', '"hologram"') where id = $1`, [odd])
    const told = jest.spyOn(console, 'error').mockImplementation(() => {})
    expect((await exportsOfLesson(id, 1)).map((one) => one.id)).toEqual([kept])
    told.mockRestore()
  })

  test('two who put lessons into other orders at once are both done, and lessons of other courses stay', async () => {
    const ids = await Promise.all([1, 2, 3, 4].map(() => createLesson(course, lesson())))
    const elsewhere = await createCourse('Elsewhere', 'elsewhere')
    const other = await createLesson(elsewhere, lesson())
    await Promise.all(
      [1, 2, 3, 4, 5, 6].map((i) => orderLessons(course, [...(i % 2 ? ids : [...ids].reverse()), other])),
    )
    const { rows } = await pool().query<{ place: number | null }>('select place from lessons where id = $1', [other])
    expect(rows).toEqual([{ place: null }])
  })

  test('a job that was taken is never seen without its lock, and is given again once its worker is gone', async () => {
    const [first, second] = [await connectWatched(() => {}), await connectWatched(() => {})]
    // What others wait for in this lane.
    while (await takeJob('quick', second));
    await requestJob({ kind: 'effect', effect: 'a bell of this test' })
    const job = (await takeJob('quick', first))!
    const stateOf = async () =>
      (await pool().query<{ state: string }>('select state from pgboss.job where id = $1', [job.id])).rows[0]!.state
    // However long ago it was taken.
    await pool().query(`update pgboss.job set started_on = now() - interval '1 minute' where id = $1`, [job.id])
    await recoverOrphans(async () => {})
    expect([await stateOf(), await takeJob('quick', second)]).toEqual(['active', null])
    await first.end()
    await until(async () => {
      await recoverOrphans(async () => {})
      return (await stateOf()) !== 'active'
    })
    expect((await takeJob('quick', second))?.id).toBe(job.id)
    await letGo(second, job.id)
    await second.end()
  })

  test('a job that nobody could be given because the clock was set back is given again', async () => {
    await requestImport('tomorrow', tone)
    await pool().query(`update pgboss.job set start_after = now() + interval '1 day' where data->>'id' = 'tomorrow'`)
    await recoverOrphans(async () => {})
    const { rows } = await pool().query(
      `select start_after <= now() as due from pgboss.job where data->>'id' = 'tomorrow'`,
    )
    expect(rows).toEqual([{ due: true }])
  })
})

test('imports, exports and tasks of before are jobs afterwards, and lessons know their files', async () => {
  await pool().query('drop database if exists earlier')
  await pool().query('create database earlier')
  const earlier = new pg.Client({
    connectionString: Object.assign(new URL(postgres.url), { pathname: '/earlier' }).href,
  })
  await earlier.connect()
  const folder = join(ROOT, 'src', 'db', 'migrations')
  const migrations = (await readdir(folder)).filter((name) => name.endsWith('.sql')).sort()
  const apply = async (names: string[]) => {
    for (const name of names) await earlier.query(await readFile(join(folder, name), 'utf8'))
  }
  await apply(migrations.filter((name) => name < '0004'))
  const hash = 'ab'.repeat(32)
  await earlier.query(`
    insert into courses (id, title) values ('c', 'Course');
    insert into lessons (id, course_id, revision, document) values ('l', 'c', 4, '{"shelf": [{"media": "${hash}"}]}');
    insert into imports (id, name, purpose, state, media) values ('i', 'tone.wav', 'media', 'done', null), ('w', 'x', 'media', 'waiting', null);
    insert into exports (id, lesson_id, revision, kind, state, bytes, balance) values ('e', 'l', 3, 'video', 'done', 99, '{"within": 1}');
    insert into tasks (id, kind, input, state, result) values
      ('t', 'scenes', '{"kind": "scenes", "media": "${hash}", "from": 0, "to": 1}', 'done', '{"scenes": [0.5]}'),
      ('b', 'balance', '{"kind": "balance", "lesson": "gone", "revision": 1}', 'failed', null);
  `)
  await apply(migrations.filter((name) => name >= '0004'))
  const { rows } = await earlier.query(
    'select id, kind, input, lesson_id, state, error_code, result from jobs order by id',
  )
  await earlier.end()
  expect(rows.map(({ id, state }) => `${id} ${state}`)).toEqual(['b failed', 'e done', 'i done', 't done', 'w waiting'])
  for (const { input } of rows) expect(jobInputSchema.safeParse(input).success).toBe(true)
  for (const { kind, result } of rows) if (result) jobResultSchemas[kind as JobKind].parse(result)
  expect(rows[0]).toMatchObject({ kind: 'balance', lesson_id: null, error_code: 'refused' })
  expect(rows[1]).toMatchObject({
    kind: 'export',
    lesson_id: 'l',
    input: { revision: 3, file: 'video' },
    result: { balance: { within: 1 }, bytes: 99 },
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
    const ask = () => pool().query<{ one: number }>('select 1 as one')
    await until(() =>
      ask().then(
        ({ rows }) => rows[0]?.one === 1,
        () => false,
      ),
    )
    expect((await Promise.all(Array.from({ length: 8 }, ask))).flatMap(({ rows }) => rows)).toHaveLength(8)
    quiet.mockRestore()
  })

  test('while it is away everybody is told so; when it is back, all goes on without a restart', async () => {
    const quiet = jest.spyOn(console, 'error').mockImplementation(() => {})
    postgres.stop()
    const error = await pool()
      .query('select 1')
      .catch((failed: unknown) => failed)
    expect(isDatabaseAway(error)).toBe(true)
    const sending = await requestImport('away', { name: 'x', purpose: 'media', course: null }).catch(
      (failed: unknown) => failed,
    )
    expect(isDatabaseAway(sending)).toBe(true)
    postgres.start()
    await requestImport('away', { name: 'x', purpose: 'media', course: null })
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

test('when a course says how its lessons look, those that were as it was follow, and can go back', async () => {
  const own = await createCourse('Day Skipper Evenings')
  const style = styleOf(lesson())
  expect(await courseStyle(own)).toBe(null)
  const [plain, square] = [
    await createLesson(own, lesson('Plain')),
    await createLesson(own, { ...lesson('Square'), frame: { ...style.frame, shape: '1:1' } }),
  ]
  expect(await setCourseStyle(own, style)).toBe(0)
  const changed = { ...style, frame: { ...style.frame, shape: '4:3' as const }, opening: 1 }
  expect(await setCourseStyle(own, changed)).toBe(2)
  expect(await courseStyle(own)).toEqual(changed)
  expect((await loadLesson(plain)).lesson).toMatchObject({ frame: { shape: '4:3' }, opening: 1 })
  expect((await loadLesson(square)).lesson).toMatchObject({ frame: { shape: '1:1' }, opening: 1 })
  expect((await listRevisions(plain)).map(({ revision }) => revision)).toEqual([2, 1])
  await expect(courseStyle('nowhere')).rejects.toBeInstanceOf(NotThere)
})

test('when a course says how its lessons begin, all do but the one that is open, and their files stay', async () => {
  const own = await createCourse('Day Skipper Mornings')
  const welcome = { ...newStep('welcome', 'Welcome', newStill('d'.repeat(64), 1)), script: 'Welcome.' }
  const open = await createLesson(own, { ...lesson('Open'), steps: [welcome, ...lesson().steps] })
  const other = await createLesson(own, lesson('Other'))
  const steps = stepsAtEnd((await loadLesson(open)).lesson, 'first', 1)
  expect(await setCourseEnd(own, 'first', steps, { open })).toBe(1)
  expect(await courseEnds(own)).toEqual({ first: steps, last: null })
  expect((await loadLesson(other)).lesson.steps[0]).toEqual(welcome)
  expect(await hashesNeeded(0)).toContain('d'.repeat(64))
  // No longer shared, they are each lesson's own; or they go.
  expect(await setCourseEnd(own, 'first', null, { isLeft: true })).toBe(0)
  expect(await courseEnds(own)).toEqual({ first: null, last: null })
  expect((await loadLesson(other)).lesson.steps[0]).toEqual(welcome)
  await setCourseEnd(own, 'first', steps)
  expect(await setCourseEnd(own, 'first', null)).toBe(2)
  expect((await loadLesson(other)).lesson.steps).toEqual(lesson().steps)
  await expect(setCourseEnd('nowhere', 'last', null)).rejects.toBeInstanceOf(NotThere)
})

test('of what waits for a lesson is counted what is there whole, and what was left after something of it had come', async () => {
  const id = await createLesson(course, lesson('Awaited'))
  const begin = (one: string, kind: 'file' | 'voice') =>
    openArrival({
      id: one,
      lessonId: id,
      owner: 'me',
      ...(kind === 'file' ? { kind, name: 'mast.png' } : { kind, details: { marks: [{ step: 'a', at: 0 }] } as never }),
    })
  const counted = async () => (await waitingCounts()).get(id) ?? 0
  const left = (one: string, created: string) =>
    pool().query(
      `update arrivals set heard_at = now() - interval '4 minutes', created_at = now() - interval '${created}' where id = $1`,
      [one],
    )
  for (const [one, kind] of [
    ['whole-file', 'file'],
    ['begun-file', 'file'],
    ['spoken-voice', 'voice'],
    ['silent-voice', 'voice'],
  ] as const)
    await begin(one, kind)
  expect(await counted()).toBe(0)
  await finishArrival('whole-file', db())
  expect(await counted()).toBe(1)
  await left('spoken-voice', '5 minutes')
  await left('silent-voice', '4 minutes')
  expect(await counted()).toBe(2)
  await updateArrival('whole-file', { state: 'taken' })
  // Told late, by a tus server that tries again: it is in its lesson, and stays so.
  await finishArrival('whole-file', db())
  expect(await counted()).toBe(1)
})

test('a saved copy that is opened again, because its worker died, makes no second lesson or course', async () => {
  const head = { title: 'Twice', pronunciations: [], style: null, ends: NO_ENDS, delivery: [] }
  for (let i = 0; i < 2; i++)
    expect(await createCourseWith(head, [lesson('One'), lesson('Two')], 'opened-twice')).toBe('opened-twice')
  const found = (await listCourses()).filter(({ title }) => title === 'Twice')
  expect(found.map(({ lessons: own }) => own.map(({ title }) => title))).toEqual([['One', 'Two']])
})

test('what a course says of its lessons is changed only by who knows what it says now', async () => {
  const own = await createCourse('Changed by two')
  const style = styleOf(lesson())
  await setCourseStyle(own, style, null)
  const [mine, theirs] = ['#101010', '#202020'].map((ink) => ({ ...style, look: { ...style.look, ink } }))
  expect(await setCourseStyle(own, mine!, await courseStyle(own))).toBe(0)
  await expect(setCourseStyle(own, theirs!, style)).rejects.toBeInstanceOf(Overtaken)
  expect(await courseStyle(own)).toEqual(mine)
  const [first, other] = [stepsAtEnd(lesson(), 'first', 1), null]
  await setCourseEnd(own, 'first', first, { before: null })
  // The other end is another thing: whoever changes it has not been overtaken.
  await setCourseEnd(own, 'last', first, { before: null })
  await expect(setCourseEnd(own, 'first', other, { before: null })).rejects.toBeInstanceOf(Overtaken)
  expect((await courseEnds(own)).first).not.toBeNull()
  const together = ['#303030', '#404040'].map((ink) => ({ ...style, look: { ...style.look, ink } }))
  const outcomes = await Promise.allSettled(together.map((one) => setCourseStyle(own, one, mine)))
  expect(outcomes.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
})

test('words that many say how to say, and outputs that many choose, are all there', async () => {
  const own = await createCourse('Said by many')
  const words = Array.from({ length: 12 }, (_, i) => `word${i}`)
  await Promise.all(
    words.map((word) => changePronunciations(own, { said: [{ word, saidAs: `${word} said` }], forgotten: [] })),
  )
  expect((await pronunciationsOf(own)).map(({ word }) => word).sort()).toEqual([...words].sort())
  await changePronunciations(own, { said: [{ word: 'word3', saidAs: 'otherwise' }], forgotten: words.slice(5) })
  expect(await pronunciationsOf(own)).toHaveLength(5)
  expect(await pronunciationsOf(own)).toContainEqual({ word: 'word3', saidAs: 'otherwise' })
  await Promise.all([
    changeDelivery(own, { added: ['video'], removed: [] }),
    changeDelivery(own, { added: ['captions-vtt'], removed: [] }),
  ])
  expect((await courseDelivery(own)).sort()).toEqual(['captions-vtt', 'video'])
  await changeDelivery(own, { added: [], removed: ['video'] })
  expect(await courseDelivery(own)).toEqual(['captions-vtt'])
  await expect(changeDelivery('nowhere', { added: [], removed: [] })).rejects.toBeInstanceOf(NotThere)
})

test('what is made of each lesson of a course is kept; what this program does not know is nothing', async () => {
  const own = await createCourse('Day Skipper Afternoons')
  expect(await courseDelivery(own)).toEqual([])
  await changeDelivery(own, { added: ['video', 'captions-vtt'], removed: [] })
  expect(await courseDelivery(own)).toEqual(['video', 'captions-vtt'])
  await db()
    .update(courses)
    .set({ delivery: ['of a later time'] })
    .where(eq(courses.id, own))
  expect(await courseDelivery(own)).toEqual([])
})
