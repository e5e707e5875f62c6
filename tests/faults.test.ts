import { randomBytes } from 'node:crypto'
import { request, type IncomingHttpHeaders } from 'node:http'
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import sharp from 'sharp'
import { DEFAULT_WISH } from '@/core/compose/wish'
import type { Lesson } from '@/core/lesson/document'
import type { ExportStatus } from '@/core/lesson/exportStatus'
import type { ImportStatus } from '@/core/lesson/importStatus'
import { writeWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { madeFile, output, rawFile, scratch, startApplication, until, type Application } from './support/application'
import { chooseFiles, clickOn, openBrowser, openPage, savedLesson, waitForSheet, waitForText } from './support/browser'

/** What goes wrong in life: bad files, two windows, lost connections, killed workers. Nothing may be lost by it. */

interface Saved {
  lesson: Lesson
  revision: number
}

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

describe('saving', () => {
  test('what is done is there after reloading, and can be saved as a copy and opened again', async () => {
    const { page } = await openPage(browser, lessonUrl())
    await waitForSheet(page)
    await clickOn(page, 'Reading a tide table')
    await page.keyboard.down('Control')
    await page.keyboard.press('a')
    await page.keyboard.up('Control')
    await page.keyboard.type('Reading a tide table well')
    await page.keyboard.press('Enter')
    const saved = await savedLesson(page)
    expect(saved.lesson.title).toBe('Reading a tide table well')
    await page.reload()
    await waitForText(page, 'Reading a tide table well')

    const copy = await put(
      'copy.zip',
      Buffer.from(await (await fetch(`${application.url}/api/lessons/tide-table/archive`)).arrayBuffer()),
    )
    const home = (await openPage(browser, application.url)).page
    await chooseFiles(home, 'open-copy', copy)
    await home.waitForFunction(() => location.pathname.startsWith('/lessons/'), { timeout: 60_000 })
    await waitForSheet(home)
    expect(home.url()).not.toBe(page.url())
    expect((await savedLesson(home)).lesson).toEqual(saved.lesson)
    await home.close()
    await page.close()
  })

  test('two windows on one lesson: the later save is told so, and nothing is overwritten', async () => {
    const [first, second] = [(await openPage(browser, lessonUrl())).page, (await openPage(browser, lessonUrl())).page]
    // A page in the background draws nothing, so each is looked at while it is in front.
    await waitForSheet(second)
    await first.bringToFront()
    await waitForSheet(first)
    await first.keyboard.press('Home')
    await first.keyboard.press('Delete')
    const kept = await savedLesson(first)
    expect(kept.lesson.steps).toHaveLength(11)
    await second.bringToFront()
    await second.keyboard.press('End')
    await second.keyboard.press('Delete')
    await waitForText(second, 'This lesson was changed in another window')
    const now = (await (await fetch(`${application.url}/api/lessons/tide-table`)).json()) as typeof kept
    expect(now).toEqual(kept)
    // The other version is not lost either.
    await clickOn(second, 'Keep this version as a copy')
    await second.waitForFunction(() => !location.pathname.endsWith('tide-table'), { timeout: 30_000 })
    await waitForSheet(second)
    expect((await savedLesson(second)).lesson.steps.map(({ id }) => id)).toContain('t1')
    await first.bringToFront()
    await clickOn(first, 'Undo')
    expect((await savedLesson(first)).lesson.steps).toHaveLength(12)
    await first.close()
    await second.close()
  })

  test('while the server does not answer, nothing is called saved; afterwards it is', async () => {
    const { page } = await openPage(browser, lessonUrl())
    await waitForSheet(page)
    await page.setOfflineMode(true)
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await waitForText(page, 'Not saved yet')
    await page.setOfflineMode(false)
    expect((await savedLesson(page)).lesson.steps).toHaveLength(11)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson.steps).toHaveLength(12)
    await page.close()
  })

  test('an earlier version can be brought back, and that can be undone', async () => {
    const { page } = await openPage(browser, lessonUrl())
    await waitForSheet(page)
    const { lesson } = await savedLesson(page)
    await page.keyboard.down('Control')
    await page.keyboard.press('a')
    await page.keyboard.up('Control')
    await page.keyboard.press('Delete')
    expect((await savedLesson(page)).lesson.steps).toHaveLength(0)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson).toEqual(lesson)
    await clickOn(page, 'Copy and versions')
    await clickOn(page, 'Earlier versions…')
    await clickOn(page, 'Bring back')
    await page.waitForFunction(() => document.querySelector('[data-save]')?.textContent === 'Saved')
    await page.close()
  })
})

describe('work is never lost', () => {
  const open = async (path = '/lessons/tide-table') => {
    const { page } = await openPage(browser, application.url + path)
    await waitForSheet(page)
    return page
  }
  const script = (page: Page) => page.waitForSelector('#step-script')

  test('typing counts as it is typed: a reload in the middle of a sentence loses none of it', async () => {
    const page = await open()
    await (await script(page))!.focus()
    await page.keyboard.down('Control')
    await page.keyboard.press('End')
    await page.keyboard.up('Control')
    await page.keyboard.type(' Mind the springs')
    // Not left, not saved: the page is gone a moment after the last key.
    page.on('dialog', (dialog) => void dialog.accept())
    await page.reload()
    await waitForSheet(page)
    expect(await (await script(page))!.evaluate((one) => (one as HTMLTextAreaElement).value)).toMatch(
      / Mind the springs$/,
    )
    expect((await savedLesson(page)).lesson.steps[0]!.script).toMatch(/ Mind the springs$/)
    await page.close()
  })

  test('Back shows a lesson as it is stored now, and it can be gone on with', async () => {
    const page = await open()
    await clickOn(page, 'Coastal Skipper Basics')
    await page.waitForSelector('[data-testid="first-files"]')
    // Meanwhile somebody changes it elsewhere.
    const { lesson, revision } = (await (await fetch(`${application.url}/api/lessons/tide-table`)).json()) as Saved
    await fetch(`${application.url}/api/lessons/tide-table`, {
      method: 'PUT',
      body: JSON.stringify({ base: revision, save: 'elsewhere-1', lesson: { ...lesson, title: 'Changed elsewhere' } }),
    })
    await page.goBack()
    await waitForText(page, 'Changed elsewhere')
    await waitForSheet(page)
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    expect((await savedLesson(page)).lesson.steps).toHaveLength(lesson.steps.length - 1)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson).toEqual({ ...lesson, title: 'Changed elsewhere' })
    await page.close()
  })

  test('leaving at once after a change waits for its save: home shows it, and so does coming back', async () => {
    const page = await open()
    await clickOn(page, 'Changed elsewhere')
    await page.keyboard.type('!')
    await page.keyboard.press('Enter')
    await clickOn(page, 'Coastal Skipper Basics')
    await page.waitForSelector('[data-testid="first-files"]')
    await waitForText(page, 'Changed elsewhere!')
    await page.goBack()
    await waitForSheet(page)
    expect((await savedLesson(page)).lesson.title).toBe('Changed elsewhere!')
    await page.close()
  })

  test('a save whose answer was lost does not conflict with itself', async () => {
    const page = await open()
    const before = await savedLesson(page)
    let lost = 0
    page.on('request', (request) => {
      const isSave = request.method() === 'PUT' && request.url().endsWith('/api/lessons/tide-table')
      if (!isSave || lost > 0) return void request.continue().catch(() => {})
      lost++
      // It arrives and is done; only the answer never comes.
      void fetch(request.url(), { method: 'PUT', body: request.postData() })
        .then(() => request.abort('connectionreset'))
        .catch(() => {})
    })
    await page.setRequestInterception(true)
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await waitForText(page, 'Not saved yet')
    const saved = await savedLesson(page)
    expect(lost).toBe(1)
    expect(saved.lesson.steps).toHaveLength(before.lesson.steps.length - 1)
    expect(saved.revision).toBe(before.revision + 1)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson).toEqual(before.lesson)
    await page.close()
  })

  test('while the server is away editing goes on; what was changed outlives a closed page and is saved when it is back', async () => {
    const page = await open()
    const before = await savedLesson(page)
    await application.server.kill('SIGKILL')
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await waitForText(page, 'kept in this browser')
    await page.close()
    await application.replaceServer(0)
    const again = await open()
    const after = await savedLesson(again)
    expect(after.lesson.steps).toHaveLength(before.lesson.steps.length - 1)
    expect(after.revision).toBe(before.revision + 1)
    await again.keyboard.press('Home')
    await putBack(before.lesson, after.revision)
    await again.close()
  })

  test('what is kept in the browser and was changed elsewhere meanwhile is asked about, and neither is lost', async () => {
    const page = await open()
    const before = await savedLesson(page)
    await application.server.kill('SIGKILL')
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await waitForText(page, 'kept in this browser')
    await page.close()
    await application.replaceServer(0)
    const elsewhere = { ...before.lesson, title: 'The other one' }
    await putBack(elsewhere, before.revision)
    const again = await open()
    await waitForText(again, 'This lesson was changed in another window')
    expect(await storedTitle()).toBe('The other one')
    await clickOn(again, 'Keep this version as a copy')
    await again.waitForFunction(() => !location.pathname.endsWith('tide-table'), { timeout: 30_000 })
    await waitForSheet(again)
    expect((await savedLesson(again)).lesson.steps).toHaveLength(before.lesson.steps.length - 1)
    await again.close()
    const last = await open()
    expect((await savedLesson(last)).lesson).toEqual(elsewhere)
    await putBack(before.lesson, before.revision + 1)
    await last.close()
  })

  test('a database that is away for a while loses nothing, and nothing has to be started again', async () => {
    const page = await open()
    const before = await savedLesson(page)
    application.stopDatabase()
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await waitForText(page, 'Not saved yet')
    const answer = await fetch(`${application.url}/api/courses`)
    expect(answer.status).toBe(503)
    expect(await answer.json()).toEqual({ error: expect.stringMatching(/^The database does not answer/) })
    application.startDatabase()
    expect((await savedLesson(page)).lesson.steps).toHaveLength(before.lesson.steps.length - 1)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson).toEqual(before.lesson)
    // The worker goes on, too.
    await madeFile(application.url, 'tide-table', 'voice-wav')
    await page.close()
  })

  test('files dropped in any view come in, pictures in the order of their names', async () => {
    const { page } = await openPage(browser, `${lessonUrl()}/finish`)
    const before = await savedLesson(page)
    const names = ['buoy 10.png', 'buoy 2.png', 'buoy 1.png']
    const files = await Promise.all(
      names.map(async (name, i) => {
        const picture = sharp({ create: { width: 64 + i, height: 36, channels: 3, background: '#12647a' } })
        return { name, bytes: (await picture.png().toBuffer()).toString('base64') }
      }),
    )
    await page.evaluate((dropped) => {
      const data = new DataTransfer()
      for (const { name, bytes } of dropped) {
        const binary = Uint8Array.from(atob(bytes), (letter) => letter.charCodeAt(0))
        data.items.add(new File([binary], name, { type: 'image/png' }))
      }
      for (const type of ['dragenter', 'dragover', 'drop'])
        window.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }))
    }, files)
    // Another view does not lose what is on its way.
    await clickOn(page, 'Booth')
    await page.waitForFunction(() => !document.querySelector('[aria-label="Files on their way"]'), { timeout: 60_000 })
    const titles = await until(async () => {
      const { lesson } = await savedLesson(page)
      const added = lesson.steps.filter(({ id }) => !before.lesson.steps.some((step) => step.id === id))
      return added.length === 3 && added.map(({ title }) => title)
    })
    expect(titles).toEqual(['Buoy 1', 'Buoy 2', 'Buoy 10'])
    for (let i = 0; i < 6; i++) await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson).toEqual(before.lesson)
    await page.close()
  })

  test('a long script and a name as long as a path make a lesson like any other', async () => {
    const { page } = await openPage(browser, application.url)
    const words = 'Mind the tide before you slip the mooring lines. '.repeat(540)
    const picture = `${'harbour wall at low water '.repeat(9)}.png`.slice(-200)
    await sharp({ create: { width: 80, height: 45, channels: 3, background: '#93610a' } })
      .png()
      .toFile(join(folder, picture))
    await put('long.txt', words)
    await chooseFiles(page, 'first-files', join(folder, picture), join(folder, 'long.txt'))
    await waitForText(page, 'picture')
    await clickOn(page, 'Make the lesson')
    await page.waitForFunction(() => location.pathname.startsWith('/lessons/'), { timeout: 60_000 })
    await page.waitForSelector('[role=row]')
    expect((await savedLesson(page)).lesson.steps[0]!.script.length).toBeGreaterThan(26_000)
    expect((await fetch(application.url)).status).toBe(200)
    await page.close()
  })

  test('a lesson that can not be read harms no other, and can be had as it is', async () => {
    await application.query(
      `insert into lessons (id, course_id, revision, document) values ('later', 'coastal', 1, '{"format": 99, "title": "Of a later time"}')`,
    )
    const { page } = await openPage(browser, application.url)
    await page.waitForSelector('[data-unreadable]')
    await waitForText(page, 'Of a later time')
    await page.waitForSelector('a[href="/lessons/tide-table"]')
    await page.goto(`${application.url}/lessons/later`)
    await waitForText(page, 'can’t be opened here')
    const archive = await fetch(`${application.url}/api/lessons/later/archive`)
    expect(archive.status).toBe(200)
    await put('later.zip', new Uint8Array(await archive.arrayBuffer()))
    const document = await output('unzip', ['-p', join(folder, 'later.zip'), 'lesson.json']).catch(() => null)
    if (document) expect(JSON.parse(document)).toEqual({ format: 99, title: 'Of a later time' })
    await application.query(`delete from lessons where id = 'later'`)
    await page.close()
  })

  const storedTitle = async () =>
    ((await (await fetch(`${application.url}/api/lessons/tide-table`)).json()) as Saved).lesson.title
  /** As another window would. */
  async function putBack(lesson: Saved['lesson'], base: number) {
    const body = JSON.stringify({ base, save: `test-${base}-${Date.now()}`, lesson })
    expect((await fetch(`${application.url}/api/lessons/tide-table`, { method: 'PUT', body })).status).toBe(200)
  }
})

describe('strangers and odd requests', () => {
  const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    new Promise<{ status: number; headers: IncomingHttpHeaders; text: string }>((resolve, reject) => {
      const { port } = new URL(application.url)
      const sent = request({ port, path, method, headers }, (response) => {
        let text = ''
        response.setEncoding('utf8').on('data', (part: string) => (text += part))
        response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }))
      })
      sent.on('error', reject).end()
    })

  test('under a name that is not ours nothing is answered, pages and pictures included', async () => {
    for (const path of ['/', '/lessons/tide-table', '/api/courses', '/api/health', '/icon.svg']) {
      for (const method of ['GET', 'HEAD', 'PUT']) {
        const { status, text } = await ask(path, { host: 'rebound.example' }, method)
        expect(status).toBe(403)
        if (method === 'GET') expect(text).toMatch(/not asked for as "rebound\.example".*YARN_STEP_HOSTS/)
      }
    }
    expect((await ask('/api/courses', { 'sec-fetch-site': 'cross-site' })).status).toBe(403)
    expect((await ask('/api/courses', { origin: 'null' })).status).toBe(403)
  })

  test('every answer says how it is to be taken; nothing tells what runs here', async () => {
    for (const path of ['/', '/nothing/here', '/api/courses', '/api/nothing']) {
      const { headers, text } = await ask(path)
      expect(headers['content-security-policy']).toMatch(/frame-ancestors 'none'/)
      expect(headers['x-content-type-options']).toBe('nosniff')
      expect(headers['referrer-policy']).toBe('same-origin')
      expect(headers['permissions-policy']).toMatch(/geolocation=\(\)/)
      expect(headers['x-powered-by']).toBeUndefined()
      const nonce = /'nonce-([^']+)'/.exec(headers['content-security-policy'] as string)![1]!
      for (const [script] of text.matchAll(/<script[^>]*>/g)) expect(script).toContain(`nonce="${nonce}"`)
    }
  })

  test.each([
    '/api/lessons/nothing',
    '/api/lessons/%00',
    '/api/lessons/a%00b/revisions',
    '/api/lessons/tide-table/revisions/x',
    '/api/lessons/tide-table/revisions/99999999999',
    '/api/lessons/tide-table/revisions/-1',
    '/api/lessons/nothing/exports',
    '/api/lessons/nothing/archive',
    '/api/lessons/nothing/revisions',
    '/api/courses/nothing/balance',
    '/api/exports/nothing/file',
    '/api/imports?id=%00',
    '/api/tasks?id=%00',
    '/api/recordings?lesson=%00',
    '/api/media/x/page-1.png',
    `/api/media/${'a'.repeat(64)}/take?from=0&to=1&format=wav`,
    `/api/media/${'a'.repeat(64)}/take?from=x`,
    '/api/pieces/score?wish=%7B%7D',
    '/api/pieces/preview?wish=x',
    '/lessons/nothing',
    '/lessons/%00',
    '/courses/nothing',
  ])('%s is told to be wrong or not there, and nothing of ours is shown', async (path) => {
    const { status, text } = await ask(path)
    expect(status).toBeGreaterThanOrEqual(path.includes('?id=') || path.includes('?lesson=') ? 200 : 400)
    expect(status).toBeLessThan(500)
    expect(text).not.toMatch(/select .* from|at .*\.mjs:\d|postgresql:|\/work\//i)
  })

  test.each([
    ['POST', '/api/lessons', { course: 'nothing', title: 'x', pictures: [], voices: [], music: [] }],
    ['POST', '/api/lessons', { course: null, title: 'x', pictures: ['a'.repeat(64)], voices: [], music: [] }],
    ['POST', '/api/recordings', { id: 'recording-1', lesson: 'nothing', kind: 'voice', details: {} }],
    ['POST', '/api/roles', { sounds: ['../../x'] }],
    ['POST', '/api/tasks', { kind: 'balance', lesson: '\0', revision: 1 }],
    ['PUT', '/api/lessons/tide-table', { base: 1, save: 'x', lesson: {} }],
    ['PUT', '/api/lessons/tide-table', { base: 1e12, save: 'save-1234', lesson: {} }],
    ['PATCH', '/api/courses/nothing', { title: 'x' }],
    ['DELETE', '/api/lessons/nothing', null],
    ['DELETE', '/api/exports/nothing', null],
  ])('%s %s with %j is refused with a sentence', async (method, path, body) => {
    const answer = await fetch(application.url + path, { method, ...(body && { body: JSON.stringify(body) }) })
    // A task is taken, and fails with a sentence.
    if (path === '/api/tasks') return expect(answer.status).toBeLessThan(500)
    expect(answer.status).toBeGreaterThanOrEqual(400)
    expect(answer.status).toBeLessThan(500)
    expect(((await answer.json()) as { error: string }).error).toMatch(/[.]$/)
  })

  test('more than a request may hold is not read', async () => {
    const body = JSON.stringify({ title: 'x'.repeat(6_000_000) })
    const answer = await fetch(`${application.url}/api/courses`, {
      method: 'POST',
      body,
      headers: { connection: 'close' },
    })
    expect(answer.status).toBe(413)
  })

  test('many previews at once leave the server able to answer: the newest are heard', async () => {
    const wish = JSON.stringify({ ...DEFAULT_WISH, length: 60, sections: [{ kind: 'body', start: 0 }] })
    const previews = Array.from({ length: 20 }, (_, i) =>
      fetch(
        `${application.url}/api/pieces/preview?wish=${encodeURIComponent(wish.replace(/"seed":\d+/, `"seed":${i}`))}`,
      ),
    )
    const asked = performance.now()
    expect((await fetch(`${application.url}/api/health`)).status).toBe(200)
    expect(performance.now() - asked).toBeLessThan(10_000)
    const statuses = (await Promise.all(previews)).map(({ status }) => status)
    expect(statuses.filter((status) => status === 200).length).toBeGreaterThanOrEqual(1)
    expect(statuses.filter((status) => status !== 200 && status !== 400)).toEqual([])
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
      const [row] = (await (await fetch(`${application.url}/api/imports?id=${id}`)).json()) as ImportStatus[]
      return row?.state === 'done' && row
    })
    expect(status.media).toMatchObject({ name: 'long reading.wav', length: 20, bytes: bytes.length })
    const sound = await fetch(`${application.url}/api/media/${status.media!.hash}/sound.f32`, {
      headers: { range: 'bytes=0-3999' },
    })
    expect(sound.status).toBe(206)
    const samples = new Float32Array(await sound.arrayBuffer())
    noise(1000, 77).forEach((value, i) => expect(samples[i]!).toBeCloseTo(value, 5))
  })

  test('a job survives its worker: killed in the middle, it is taken up again and ends well', async () => {
    const started = await fetch(`${application.url}/api/lessons/tide-table/exports`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ kind: 'video' }),
    })
    const { id } = (await started.json()) as { id: string }
    const status = async () =>
      ((await (await fetch(`${application.url}/api/lessons/tide-table/exports`)).json()) as ExportStatus[]).find(
        (one) => one.id === id,
      )!
    await until(async () => (await status()).progress > 0.05)
    await application.replaceWorker()
    const done = await until(async () => {
      const now = await status()
      expect(now.state).not.toBe('failed')
      return now.state === 'done' && now
    }, 200)
    expect(done.balance!.within!).toBeGreaterThanOrEqual(0.98)
    const file = await put(
      'after.mp4',
      Buffer.from(await (await fetch(`${application.url}/api/exports/${id}/file`)).arrayBuffer()),
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
