import { readdir, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import type { WaitingArrival } from '@/core/messages/arrival'
import { writeWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { rawFile, scratch, startApplication, TEST_DATA, until, type Application } from './support/application'
import {
  chooseFiles,
  clickAt,
  clickOn,
  newLesson,
  openBrowser,
  openPage,
  savedLesson,
  waitForText,
} from './support/browser'

/** What is on its way into a lesson when its page is left, and whose it is. */

let application: Application
let browser: Browser
const folder = scratch()

beforeAll(async () => {
  application = await startApplication()
  browser = await openBrowser()
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

const lessonCalled = (title: string) => newLesson(application.url, title, 'coastal')
/** Of a lesson that has no steps yet. */
const sheetOf = async (lesson: string) => {
  const opened = await openPage(browser, `${application.url}/lessons/${lesson}`)
  await waitForText(opened.page, 'Nothing here yet')
  return opened
}
const ownerOf = (page: Page) => page.evaluate(() => localStorage.getItem('yarn-step-owner') ?? '')
const waitingFor = async (lesson: string, owner: string): Promise<WaitingArrival[]> =>
  (
    await fetch(`${application.url}/api/arrivals?lesson=${lesson}`, { headers: { 'x-yarn-step-owner': owner } })
  ).json() as Promise<WaitingArrival[]>
const uploadsKept = () => readdir(join(TEST_DATA, 'uploads')).catch((): string[] => [])

/** Leaves the page once a file is on the server whole, before it has been read in. */
async function leaveWhileItIsReadIn(lesson: string): Promise<string> {
  const { page } = await sheetOf(lesson)
  process.kill(application.worker.pid!, 'SIGSTOP')
  try {
    await chooseFiles(page, 'bring-in', rawFile('leaving-a-berth.pdf'))
    await waitForText(page, 'waiting to be read')
    return await ownerOf(page)
  } finally {
    await page.close()
    process.kill(application.worker.pid!, 'SIGCONT')
  }
}

test('a file that was still read in when its page was left is told on the home page, and on the shelf when one comes back', async () => {
  const lesson = await lessonCalled('Left in a hurry')
  const owner = await leaveWhileItIsReadIn(lesson)
  expect(await waitingFor(lesson, owner)).toMatchObject([{ kind: 'file', name: 'leaving-a-berth.pdf', isOwn: true }])
  const home = await openPage(browser, application.url)
  await waitForText(home.page, 'Something came for it and is not in it yet')
  await home.page.close()
  const { page, faults } = await sheetOf(lesson)
  await waitForText(page, 'leaving-a-berth.pdf has come in meanwhile, and is on the shelf.')
  expect((await savedLesson(page)).lesson.shelf.map(({ title }) => title)).toEqual(['Leaving a berth'])
  await until(async () => (await waitingFor(lesson, owner)).length === 0)
  await page.close()
  expect(faults).toEqual([])
})

test('what somebody else has left for minutes is offered to whoever opens the lesson', async () => {
  const lesson = await lessonCalled('Left to others')
  const owner = await leaveWhileItIsReadIn(lesson)
  await application.query(`update arrivals set owner = 'somebody-else' where owner = '${owner}'`)
  expect(await waitingFor(lesson, owner)).toEqual([])
  await application.query(`update arrivals set heard_at = now() - interval '4 minutes' where lesson_id = '${lesson}'`)
  const { page, faults } = await sheetOf(lesson)
  await waitForText(page, 'leaving-a-berth.pdf was brought in for this lesson and is not in it yet.')
  await clickOn(page, 'Put it on the shelf')
  await until(async () => (await savedLesson(page)).lesson.shelf.length === 1)
  await until(async () => (await waitingFor(lesson, owner)).length === 0)
  await page.close()
  expect(faults).toEqual([])
})

/**
 * 8 MB, at a pace by which they are under way for minutes: however long a busy machine stands still, they are not there before
 * their page is left. Returns what the server calls it once some of it is there.
 */
async function bringInSlowly(page: Page, testId: string): Promise<string> {
  const before = await uploadsKept()
  await writeFile(join(folder, 'long wind.wav'), writeWav([noise(48000 * 80, 5)], 48000))
  await page.emulateNetworkConditions({ upload: 20_000, download: 10_000_000, latency: 10 })
  await chooseFiles(page, testId, join(folder, 'long wind.wav'))
  const note = await until(async () =>
    (await uploadsKept()).find((name) => name.endsWith('.json') && !before.includes(name)),
  )
  const id = note.replace('.json', '')
  await until(async () => (await stat(join(TEST_DATA, 'uploads', id))).size > 0)
  return id
}

test('who leaves while bytes are under way is asked; what broke off is told, goes on, and can be thrown away', async () => {
  const lesson = await lessonCalled('A slow line')
  const { page } = await sheetOf(lesson)
  const id = await bringInSlowly(page, 'bring-in')
  const owner = await ownerOf(page)
  // Asked, one stays; then the page goes as in a crash, which asks nobody.
  const asked = new Promise<string>((resolve) =>
    page.once('dialog', (dialog) => void dialog.dismiss().then(() => resolve(dialog.type()))),
  )
  await page.close({ runBeforeUnload: true })
  expect(await asked).toBe('beforeunload')
  await page.close()
  const again = await sheetOf(lesson)
  await waitForText(again.page, 'long wind.wav broke off on its way')
  expect(await waitingFor(lesson, owner)).toMatchObject([{ id, state: 'open', bytes: expect.any(Number) }])
  // Brought in again it goes on from there, as the same.
  await chooseFiles(again.page, 'bring-in', join(folder, 'long wind.wav'))
  await until(async () => (await savedLesson(again.page)).lesson.shelf.length === 1)
  expect(await fetch(`${application.url}/api/jobs?id=${id}`).then((answer) => answer.json())).toMatchObject([
    { id, state: 'done' },
  ])
  await again.page.close()
})

test('what broke off and is thrown away leaves nothing behind', async () => {
  const lesson = await lessonCalled('Thrown away')
  const { page } = await sheetOf(lesson)
  const id = await bringInSlowly(page, 'bring-in')
  const owner = await ownerOf(page)
  await page.close()
  const again = await sheetOf(lesson)
  await waitForText(again.page, 'long wind.wav broke off on its way')
  await clickOn(again.page, 'Throw it away')
  await waitForText(again.page, 'Throw long wind.wav away?')
  await clickAt(again.page, '.ant-modal-confirm .ant-btn-dangerous')
  await until(async () => (await waitingFor(lesson, owner)).length === 0)
  expect((await uploadsKept()).filter((name) => name.startsWith(id))).toEqual([])
  await again.page.close()
})

test('cancelling a first lesson breaks off what was on its way for it', async () => {
  const { page } = await openPage(browser, application.url)
  const id = await bringInSlowly(page, 'first-files')
  await clickOn(page, 'Cancel')
  await until(async () => !(await uploadsKept()).some((name) => name.startsWith(id)))
  await page.close()
})

test('nobody else ends a recording while it is made, or for minutes after', async () => {
  const details = { marks: [{ step: 's', at: 0 }], punch: null, room: null, trimmed: true, rate: 48000 }
  const as = (owner: string) => async (path: string, method: string, body?: unknown) => {
    const headers = { 'x-yarn-step-owner': owner }
    const sent = body instanceof Uint8Array ? (body as BodyInit) : body && JSON.stringify(body)
    return fetch(`${application.url}/api/${path}`, { method, headers, body: sent as BodyInit })
  }
  const [own, other] = [as('a'.repeat(32)), as('b'.repeat(32))]
  const id = 'of-somebody-else'
  const isListed = async (owner: string) =>
    (await waitingFor('tide-table', owner.repeat(32))).some((waiting) => waiting.id === id)
  const silentFor = (time: string) =>
    application.query(`update arrivals set heard_at = now() - interval '${time}' where id = '${id}'`)
  const piece = new Uint8Array(4000)
  const finish = { bytes: null, name: 'Take' }
  await own('recordings', 'POST', {
    id,
    lesson: 'tide-table',
    kind: 'voice',
    details: { ...details, voiceAt: null, extension: null },
  })
  expect((await own(`recordings/${id}/pieces?offset=0`, 'PUT', piece)).status).toBe(200)
  await silentFor('10 seconds')
  expect([await isListed('a'), await isListed('b')]).toEqual([true, false])
  const refused = [
    await other(`arrivals/${id}`, 'DELETE'),
    await other(`recordings/${id}/finish`, 'POST', finish),
    await other(`arrivals/${id}`, 'PATCH', { state: 'taken' }),
  ]
  expect(refused.map(({ status }) => status)).toEqual([400, 400, 400])
  expect((await own(`recordings/${id}/pieces?offset=4000`, 'PUT', piece)).status).toBe(200)
  await silentFor('4 minutes')
  expect(await isListed('b')).toBe(true)
  expect((await other(`recordings/${id}/finish`, 'POST', finish)).status).toBe(200)
  // What comes late is not dropped in silence: whoever records goes on elsewhere.
  expect((await own(`recordings/${id}/pieces?offset=8000`, 'PUT', piece)).status).toBe(410)
  expect((await own(`recordings/${id}/pieces?offset=4000`, 'PUT', piece)).status).toBe(200)
  await silentFor('4 minutes')
  expect((await other(`arrivals/${id}`, 'DELETE')).status).toBe(200)
  expect((await own(`recordings/${id}/pieces?offset=8000`, 'PUT', piece)).status).toBe(404)
})
