import { randomBytes } from 'node:crypto'
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import type { JobStatus } from '@/core/messages/job'
import { writeWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { output, rawFile, scratch, startApplication, until, type Application } from './support/application'
import {
  chooseFiles,
  clickOn,
  goTo,
  openBrowser,
  openPage,
  savedLesson,
  waitForSheet,
  waitForText,
} from './support/browser'

/** What goes wrong in life: bad files, broken uploads, killed workers. Nothing may be lost by it. */

let application: Application
let browser: Browser
const folder = scratch()
const lessonUrl = () => `${application.url}/lessons/tide-table`

beforeAll(async () => {
  application = await startApplication()
  browser = await openBrowser()
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

describe('a page that can not be made', () => {
  test.each([
    ['en', 'There is nothing here', 'Go to your courses'],
    ['de', 'Hier gibt es nichts', 'Zu Ihren Kursen'],
  ])('a lesson that is gone says so (%s), and leads on', async (language, words, home) => {
    const page = await browser.newPage()
    await page.setExtraHTTPHeaders({ 'accept-language': language })
    await goTo(page, `${application.url}/lessons/long-gone`)
    await waitForText(page, words)
    await clickOn(page, home)
    await waitForText(page, 'Coastal Skipper Basics')
    await page.close()
  })

  test('one that is opened while the database is away comes by itself once it is back', async () => {
    application.stopDatabase()
    const { page } = await openPage(browser, lessonUrl())
    await waitForText(page, 'This page cannot be shown at the moment')
    application.startDatabase()
    await waitForSheet(page)
    await page.close()
  })
})

const put = async (name: string, bytes: Uint8Array | string) => {
  await writeFile(join(folder, name), bytes)
  return join(folder, name)
}
const isHealthy = async () => (await fetch(`${application.url}/api/health`)).ok

describe('bad files', () => {
  let page: Page
  beforeAll(async () => ({ page } = await openPage(browser, lessonUrl())))
  afterAll(() => page.close())

  test.each([
    ['empty.wav', '', 'There is nothing in this file: empty.wav'],
    ['words.mp4', 'only words', "This file can't be used: words.mp4"],
    ['playlist.mp3', '#EXTM3U\nfile:///etc/passwd\n', "This file can't be used: playlist.mp3"],
    ['no-samples.wav', writeWav([new Float32Array(0)], 48000), 'This file has no sound in it: no-samples.wav'],
    ['silence.wav', writeWav([new Float32Array(96000)], 48000), 'There is only silence in this file: silence.wav'],
  ])('%s ends in a clear sentence, an unharmed lesson and a healthy server', async (name, bytes, sentence) => {
    await waitForSheet(page)
    const before = await savedLesson(page)
    await chooseFiles(page, 'bring-in', await put(name, bytes))
    await waitForText(page, sentence)
    expect(await savedLesson(page)).toEqual(before)
    expect(await isHealthy()).toBe(true)
    await clickOn(page, 'Put this notice away')
  })

  test('a zip that is no lesson is refused on the home page', async () => {
    const home = (await openPage(browser, application.url)).page
    await chooseFiles(home, 'open-copy', await put('photos.zip', 'PK\u0003\u0004 nothing'))
    await waitForText(home, 'This is not a saved lesson')
    await home.close()
    expect(await isHealthy()).toBe(true)
  })

  test('names in addresses can not climb out of the media folder', async () => {
    for (const path of [
      '..%2f..%2fpostgres-password/info.json',
      `${'a'.repeat(64)}/..%2finfo.json`,
      `${'a'.repeat(64)}/info.json`,
      'x/page-1.png',
    ]) {
      expect((await fetch(`${application.url}/api/media/${path}`)).status).toBeGreaterThanOrEqual(400)
    }
  })

  test('a page of another site can change nothing', async () => {
    const answer = await fetch(`${application.url}/api/courses`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://elsewhere.example' },
      body: JSON.stringify({ title: 'Not wanted' }),
    })
    expect(answer.status).toBe(403)
    expect(JSON.stringify(await (await fetch(`${application.url}/api/courses`)).json())).not.toContain('Not wanted')
  })
})

describe('uploads and workers', () => {
  const tus = { 'tus-resumable': '1.0.0' }

  test('an upload that broke off goes on where it stopped, and arrives whole', async () => {
    const bytes = Buffer.from(writeWav([noise(48000 * 20, 77)], 48000))
    const name = Buffer.from('long reading.wav').toString('base64')
    const made = await fetch(`${application.url}/api/uploads`, {
      method: 'POST',
      headers: { ...tus, 'upload-length': String(bytes.length), 'upload-metadata': `filename ${name}` },
    })
    expect(made.status).toBe(201)
    const address = new URL(made.headers.get('location')!, application.url)
    const send = (from: number, to: number) =>
      fetch(address, {
        method: 'PATCH',
        headers: { ...tus, 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' },
        body: bytes.subarray(from, to),
      })
    expect((await send(0, 1_000_000)).status).toBe(204)
    const offset = Number((await fetch(address, { method: 'HEAD', headers: tus })).headers.get('upload-offset'))
    expect(offset).toBe(1_000_000)
    expect((await send(500_000, bytes.length)).status).toBe(409)
    expect((await send(offset, bytes.length)).status).toBe(204)
    const id = address.pathname.split('/').at(-1)!
    const status = await until(async () => {
      const [row] = (await (await fetch(`${application.url}/api/jobs?id=${id}`)).json()) as JobStatus<'import'>[]
      return row?.state === 'done' && row
    })
    expect(status.result!.media).toMatchObject({ name: 'long reading.wav', length: 20, bytes: bytes.length })
    const sound = await fetch(`${application.url}/api/media/${status.result!.media!.hash}/sound.f32`, {
      headers: { range: 'bytes=0-3999' },
    })
    expect(sound.status).toBe(206)
    const samples = new Float32Array(await sound.arrayBuffer())
    noise(1000, 77).forEach((value, i) => expect(samples[i]!).toBeCloseTo(value, 5))
  })

  test('a job survives its worker: killed in the middle, it is taken up again and ends well', async () => {
    const started = await fetch(`${application.url}/api/jobs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ kind: 'export', lesson: 'tide-table', file: 'video' }),
    })
    const { id } = (await started.json()) as { id: string }
    const status = async () =>
      ((await (await fetch(`${application.url}/api/jobs?id=${id}`)).json()) as JobStatus<'export'>[])[0]!
    await until(async () => (await status()).progress > 0.05)
    await application.replaceWorker()
    const done = await until(async () => {
      const now = await status()
      expect(now.state).not.toBe('failed')
      return now.state === 'done' && now
    })
    expect(done.result!.balance!.within!).toBeGreaterThanOrEqual(0.98)
    const file = await put(
      'after.mp4',
      Buffer.from(await (await fetch(`${application.url}/api/jobs/${id}/file`)).arrayBuffer()),
    )
    expect(await output('ffmpeg', ['-v', 'error', '-i', file, '-f', 'null', '-'])).toBe('')
  })

  test('a video in the making can be cancelled', async () => {
    const { page } = await openPage(browser, `${lessonUrl()}/finish`)
    await clickOn(page, 'Make the sound file')
    await clickOn(page, 'Cancel')
    await page.waitForSelector('[data-export=cancelled]')
    await page.close()
  })

  test('a large file does not grow the server', async () => {
    const memory = async () =>
      Number(/VmRSS:\s+(\d+)/.exec(await readFile(`/proc/${application.server.pid}/status`, 'utf8'))![1])
    const size = 300 * 1024 * 1024
    const made = await fetch(`${application.url}/api/uploads`, {
      method: 'POST',
      headers: { ...tus, 'upload-length': String(size) },
    })
    const address = new URL(made.headers.get('location')!, application.url)
    const before = await memory()
    const chunk = randomBytes(1 << 20)
    let left = size
    const body = new ReadableStream({
      pull(controller) {
        controller.enqueue(chunk.subarray(0, Math.min(chunk.length, left)))
        left -= chunk.length
        if (left <= 0) controller.close()
      },
    })
    const answer = await fetch(address, {
      method: 'PATCH',
      headers: { ...tus, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' },
      body,
      duplex: 'half',
    } as RequestInit)
    expect(answer.status).toBe(204)
    expect(answer.headers.get('upload-offset')).toBe(String(size))
    // In kB: a fraction of what went through.
    expect((await memory()) - before).toBeLessThan(120_000)
  })
})

test('the raw files of the second lesson are there to try', async () => {
  for (const name of ['leaving-a-berth.pdf', 'reading.mp3', 'easy-water.mp3'])
    expect((await readFile(rawFile(name))).length).toBeGreaterThan(10_000)
})
