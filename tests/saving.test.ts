import { on } from 'node:events'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { text } from 'node:stream/consumers'
import { promisify } from 'node:util'
import type { Browser, Page } from 'puppeteer-core'
import sharp from 'sharp'
import yauzl from 'yauzl'
import { madeFile, scratch, startApplication, until, type Application } from './support/application'
import {
  chooseFiles,
  clickAt,
  clickOn,
  openBrowser,
  openPage,
  retype,
  type Saved,
  savedLesson,
  storedLesson,
  storeLesson,
  waitForSheet,
  waitForText,
  waitForWords,
  goTo,
} from './support/browser'
import { onRequests } from './support/requests'

/** Saving, and what comes in its way: two windows, lost answers, a server or a database that is away. */

let application: Application
let browser: Browser
const folder = scratch()
const SAVES = '*/api/lessons/tide-table'
const lessonUrl = () => `${application.url}/lessons/tide-table`

beforeAll(async () => {
  application = await startApplication()
  browser = await openBrowser()
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

const strike = async (page: Page, key: 'd' | 'z') => {
  await page.keyboard.down('Control')
  await page.keyboard.press(key)
  await page.keyboard.up('Control')
}
const put = async (name: string, bytes: Uint8Array | string) => {
  await writeFile(join(folder, name), bytes)
  return join(folder, name)
}

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
    await home.waitForFunction(() => location.pathname.startsWith('/lessons/'))
    await waitForSheet(home)
    expect(home.url()).not.toBe(page.url())
    expect((await savedLesson(home)).lesson).toEqual(saved.lesson)
    await home.close()
    await page.close()
  })

  /** A page in the background draws nothing, so each is looked at while it is in front. */
  async function twoWindows(): Promise<[Page, Page]> {
    const [first, second] = [(await openPage(browser, lessonUrl())).page, (await openPage(browser, lessonUrl())).page]
    await waitForSheet(second)
    await first.bringToFront()
    await waitForSheet(first)
    return [first, second]
  }
  const renameStep = async (page: Page, key: 'Home' | 'End', title: string) => {
    // The keys are the sheet's once no field has them any more.
    await page.locator('[role=row] img').click()
    await page.keyboard.press(key)
    await retype(page, '#step-title', title)
    await page.keyboard.press('Enter')
  }

  test('two windows that change different steps: both changes are kept, and each undoes only its own', async () => {
    const [first, second] = await twoWindows()
    await first.keyboard.press('Home')
    await first.keyboard.press('Delete')
    const kept = await savedLesson(first)
    expect(kept.lesson.steps).toHaveLength(11)
    await second.bringToFront()
    await renameStep(second, 'End', 'The last one')
    await waitForText(second, 'What was changed in another window was added')
    const { lesson: both } = await savedLesson(second)
    expect(both.steps).toHaveLength(11)
    expect(both.steps.at(-1)!.title).toBe('The last one')
    await clickOn(second, 'Undo')
    expect((await savedLesson(second)).lesson.steps).toEqual(kept.lesson.steps)
    await first.bringToFront()
    await clickOn(first, 'Undo')
    expect((await savedLesson(first)).lesson.steps).toHaveLength(12)
    await first.close()
    await second.close()
  })

  test('two windows that change the same thing: it is asked about side by side, and nothing is overwritten', async () => {
    const [first, second] = await twoWindows()
    await renameStep(first, 'Home', 'As the first says')
    await savedLesson(first)
    await second.bringToFront()
    await renameStep(second, 'End', 'The last one')
    await waitForText(second, 'What was changed in another window was added')
    await savedLesson(second)
    await first.bringToFront()
    await renameStep(first, 'End', 'Called here')
    await waitForText(first, 'Another window changed the same things')
    expect((await storedLesson(application.url, 'tide-table')).lesson.steps.at(-1)!.title).toBe('The last one')
    await clickOn(first, 'Compare and choose')
    await waitForText(first, 'Everything else that either window changed is kept')
    expect(await first.$eval('[role=dialog] li', (row) => (row as HTMLElement).innerText)).toMatch(
      /Step 12 · .*its title[^]*As it is here\s+Called here[^]*other window\s+The last one/,
    )
    await first.locator('[role=dialog] input[value=theirs]').click()
    await clickOn(first, 'Put together')
    const { lesson } = await savedLesson(first)
    expect(lesson.steps.at(-1)!.title).toBe('The last one')
    expect(lesson.steps[0]!.title).toBe('As the first says')
    await first.close()
    await second.close()
  })

  test('the same, and this version is kept as a copy', async () => {
    const [first, second] = await twoWindows()
    await renameStep(first, 'Home', 'As the first says now')
    const kept = await savedLesson(first)
    await second.bringToFront()
    await renameStep(second, 'Home', 'Called otherwise')
    await waitForText(second, 'Another window changed the same things')
    expect(await storedLesson(application.url, 'tide-table')).toEqual(kept)
    await clickOn(second, 'Keep this version as a copy')
    await second.waitForFunction(() => !location.pathname.endsWith('tide-table'))
    await waitForSheet(second)
    expect((await savedLesson(second)).lesson.steps[0]!.title).toBe('Called otherwise')
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

  test.each([
    ['scripts of a page', '*/_next/static/*.js', 3],
    ['workers', '*/turbopack-worker-*.js', 2],
  ])('%s that were lost on the way are had again by the page itself', async (_what, pattern, count) => {
    const { page } = await openPage(browser, 'about:blank')
    let asked = 0
    await onRequests(page, pattern, () => (asked++ < count ? 'is lost' : 'goes on'))
    await goTo(page, lessonUrl())
    await waitForSheet(page)
    expect(asked).toBeGreaterThan(count)
    await page.close()
  })

  test('pictures that were lost on the way are asked for again', async () => {
    const { page } = await openPage(browser, 'about:blank')
    const lost = new Set<string>()
    await onRequests(page, '*/api/media/*', ({ url }) => {
      if (!/\.(webp|png)$/.test(url) || lost.has(url)) return 'goes on'
      lost.add(url)
      return 'is lost'
    })
    await goTo(page, lessonUrl())
    await waitForSheet(page)
    await page.waitForFunction(() => {
      const pictures = [...document.querySelectorAll<HTMLImageElement>('main img[src*="/api/media/"]')]
      return pictures.length > 1 && pictures.every(({ complete, naturalWidth }) => complete && naturalWidth > 0)
    })
    expect(lost.size).toBeGreaterThan(1)
    await page.close()
  })

  test('styles that were lost on the way are asked for again, with the page and with what is gone to from it', async () => {
    const { page } = await openPage(browser, 'about:blank')
    const lost = new Set<string>()
    await onRequests(page, '*/_next/static/*.css', ({ url }) => {
      if (lost.has(url)) return 'goes on'
      lost.add(url)
      return 'is lost'
    })
    const isStyled = () =>
      page.waitForFunction(() =>
        [...document.querySelectorAll<HTMLLinkElement>('link[rel=stylesheet]')].every(({ sheet }) => sheet !== null),
      )
    await goTo(page, application.url)
    await isStyled()
    const first = lost.size
    expect(first).toBeGreaterThan(0)
    await page.evaluate(() => document.querySelector<HTMLElement>('a[href="/lessons/tide-table"]')!.click())
    await waitForSheet(page)
    await isStyled()
    expect(lost.size).toBeGreaterThan(first)
    await page.close()
  })

  test('a full disk is told at once, not after all that is tried again where a connection is lost', async () => {
    const { page } = await openPage(browser, lessonUrl())
    await waitForSheet(page)
    await onRequests(page, '*/api/uploads', () => ({ status: 507, type: 'text/plain', body: 'The disk is full.' }))
    await chooseFiles(page, 'bring-in', await put('spoken.txt', 'Mind the tide.'))
    await waitForText(page, 'The disk is full.', 20_000)
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

  test.each([0, 250])(
    'what is taken back before it was saved stays taken back, when %i ms later the page is loaded anew',
    async (rest) => {
      const { page } = await openPage(browser, lessonUrl())
      await waitForSheet(page)
      const before = await storedLesson(application.url, 'tide-table')
      await strike(page, 'd')
      // It is kept in the browser by now, and not sent yet.
      await new Promise((resolve) => setTimeout(resolve, 200))
      await strike(page, 'z')
      await new Promise((resolve) => setTimeout(resolve, rest))
      await page.reload()
      await waitForSheet(page)
      expect((await savedLesson(page)).lesson).toEqual(before.lesson)
      await new Promise((resolve) => setTimeout(resolve, 1500))
      expect((await savedLesson(page)).lesson).toEqual(before.lesson)
      await page.close()
    },
  )

  test.each(['before', 'after'])(
    'a save that was on its way when the page went does not bring back what was taken back: it arrives %s the next page’s own',
    async (order) => {
      const { page } = await openPage(browser, 'about:blank')
      let late: { path: string; body: string } | null = null
      let isHere = false
      const arrive = async () => {
        if (!late || isHere) return
        isHere = true
        await fetch(application.url + late.path, { method: 'PUT', body: late.body })
      }
      // The first save is on its way, and nobody is there any more to hear its answer.
      await page.exposeFunction('isOnItsWay', async (path: string, body: string) => {
        if (late && order === 'before') await arrive()
        if (late) return false
        late = { path, body }
        return true
      })
      await page.evaluateOnNewDocument(() => {
        const own = window.fetch
        const isOnItsWay = (path: string, body: unknown) =>
          (window as unknown as { isOnItsWay(path: string, body: unknown): Promise<boolean> }).isOnItsWay(path, body)
        window.fetch = async (input, init) =>
          init?.method === 'PUT' && (await isOnItsWay(String(input), init.body))
            ? new Promise(() => {})
            : own(input, init)
      })
      await goTo(page, lessonUrl())
      await waitForSheet(page)
      const before = await storedLesson(application.url, 'tide-table')
      await strike(page, 'd')
      await until(() => Promise.resolve(late !== null))
      await strike(page, 'z')
      page.on('dialog', (dialog) => void dialog.accept())
      await page.reload()
      await waitForSheet(page)
      await new Promise((resolve) => setTimeout(resolve, 1500))
      await savedLesson(page)
      await arrive()
      expect((await savedLesson(page)).lesson).toEqual(before.lesson)
      await page.close()
    },
  )

  test('nor does a reload where the database of the browser has no time to answer any more', async () => {
    const page = await open()
    await page.evaluate(() => {
      IDBObjectStore.prototype.put = () => {
        throw new Error('The page is going')
      }
      // Nor has the server: its answer does not come before the page is gone.
      window.fetch = () => new Promise(() => {})
    })
    await (await script(page))!.focus()
    await page.keyboard.down('Control')
    await page.keyboard.press('End')
    await page.keyboard.up('Control')
    await page.keyboard.type(' and the neaps')
    page.on('dialog', (dialog) => void dialog.accept())
    await page.reload()
    await waitForSheet(page)
    expect(await (await script(page))!.evaluate((one) => (one as HTMLTextAreaElement).value)).toMatch(/ and the neaps$/)
    const { lesson } = await savedLesson(page)
    expect(lesson.steps[0]!.script).toMatch(/ and the neaps$/)
    expect(await page.evaluate(() => Object.keys(localStorage).filter((key) => key.includes('parked')))).toEqual([])
    await page.close()
  })

  test('a view that breaks says so; the lesson stays open, and what was done is saved', async () => {
    const page = await open()
    expect(await page.title()).toBe('Sheet: Reading a tide table well · Yarn Step')
    const before = (await savedLesson(page)).lesson
    await page.keyboard.press('End')
    await page.keyboard.press('Delete')
    await page.evaluate(() => {
      const own = HTMLCanvasElement.prototype.getContext
      Object.assign(window, { mend: () => (HTMLCanvasElement.prototype.getContext = own) })
      HTMLCanvasElement.prototype.getContext = () => {
        throw new Error('broken on purpose')
      }
    })
    await page.keyboard.press('Home')
    await waitForText(page, 'Something in this page broke')
    // The bar above is still there, and with it saving.
    expect((await savedLesson(page)).lesson.steps).toHaveLength(before.steps.length - 1)
    await page.evaluate(() => (window as unknown as { mend(): void }).mend())
    await clickOn(page, 'Undo the last change')
    await waitForSheet(page)
    expect((await savedLesson(page)).lesson).toEqual(before)
    await page.close()
  })

  test('what went wrong behind the page is told, and done when it is tried again', async () => {
    const { page } = await openPage(browser, 'about:blank')
    let refuses = true
    await onRequests(page, '*/api/jobs', ({ postData }) =>
      refuses && postData?.includes('"align"')
        ? { status: 400, type: 'application/json', body: '{"error":"Not today."}' }
        : 'goes on',
    )
    await goTo(page, lessonUrl())
    await page.waitForSelector('[data-testid=troubles]')
    await page.waitForFunction(() => !document.body.innerText.includes('Finding the words'))
    await clickAt(page, '[data-testid=troubles]')
    await waitForText(page, 'The words of a take could not be found')
    await waitForText(page, 'Not today.')
    refuses = false
    // The last button tries all of them, if there are several.
    await page.$$eval('[aria-label="What went wrong"] button', (all) => all.at(-1)!.click())
    await page.waitForFunction(() => !document.querySelector('[data-testid=troubles]'))
    await waitForWords(page)
    expect(await page.$('[data-testid=troubles]')).toBeNull()
    await page.close()
  })

  test('Back shows a lesson as it is stored now, and it can be gone on with', async () => {
    const page = await open()
    await clickOn(page, 'Coastal Skipper Basics')
    await page.waitForSelector('[data-testid="first-files"]')
    // Meanwhile somebody changes it elsewhere.
    const { lesson, revision } = await storedLesson(application.url, 'tide-table')
    await putBack({ ...lesson, title: 'Changed elsewhere' }, revision)
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
    await onRequests(page, SAVES, async ({ url, method, postData }) => {
      if (method !== 'PUT' || lost > 0) return 'goes on'
      lost++
      // It arrives and is done; only the answer never comes.
      await fetch(url, { method, body: postData })
      return 'is lost'
    })
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

  test('a page that dies between a save and its answer, with more typed meanwhile, conflicts with nothing', async () => {
    const page = await open()
    const before = await savedLesson(page)
    let held = 0
    await onRequests(page, SAVES, ({ url, method, postData }) => {
      if (method !== 'PUT') return 'goes on'
      // Done, and never answered.
      if (held++ === 0) void fetch(url, { method, body: postData })
      return new Promise(() => {})
    })
    await (await script(page))!.focus()
    await page.keyboard.type('Before. ')
    await until(async () => held > 0)
    await page.keyboard.type('After. ')
    await new Promise((resolve) => setTimeout(resolve, 800))
    await page.close()
    const again = await open()
    const after = await savedLesson(again)
    const text = after.lesson.steps[0]!.script
    for (const typed of ['Before. ', 'After. ']) expect(text).toContain(typed)
    expect(after.revision).toBe(before.revision + 2)
    await putBack(before.lesson, after.revision)
    await again.close()
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
    const last = before.lesson.steps.at(-1)!
    const steps = [...before.lesson.steps.slice(0, -1), { ...last, title: 'Changed elsewhere' }]
    const elsewhere = { ...before.lesson, title: 'The other one', steps }
    await putBack(elsewhere, before.revision)
    const again = await open()
    await waitForText(again, 'Another window changed the same things')
    expect(await storedTitle()).toBe('The other one')
    await clickOn(again, 'Keep this version as a copy')
    await again.waitForFunction(() => !location.pathname.endsWith('tide-table'))
    await waitForSheet(again)
    expect((await savedLesson(again)).lesson.steps).toHaveLength(before.lesson.steps.length - 1)
    await again.close()
    const other = await open()
    expect((await savedLesson(other)).lesson).toEqual(elsewhere)
    await putBack(before.lesson, before.revision + 1)
    await other.close()
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
    await page.waitForFunction(() => !document.querySelector('[aria-label="Files on their way"]'))
    const titles = await until(async () => {
      const { lesson } = await savedLesson(page)
      const added = lesson.steps.filter(({ id }) => !before.lesson.steps.some((step) => step.id === id))
      return added.length === 3 && added.map(({ title }) => title)
    })
    expect(titles).toEqual(['Buoy 1', 'Buoy 2', 'Buoy 10'])
    // Each file is one step of undo, with its place on the shelf.
    for (let i = 0; i < 3; i++) await clickOn(page, 'Undo')
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
    // Half an hour is read by the stand-in voice, and listened to.
    await page.waitForFunction(() => location.pathname.startsWith('/lessons/'))
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
    await goTo(page, `${application.url}/lessons/later`)
    await waitForText(page, 'can’t be opened here')
    const archive = await fetch(`${application.url}/api/lessons/later/archive`)
    expect(archive.status).toBe(200)
    await put('later.zip', new Uint8Array(await archive.arrayBuffer()))
    const document = await entryOf(join(folder, 'later.zip'), 'lesson.json')
    expect(JSON.parse(document)).toEqual({ format: 99, title: 'Of a later time' })
    await application.query(`delete from lessons where id = 'later'`)
    await page.close()
  })

  /** A file in a zip, as text. */
  async function entryOf(path: string, name: string): Promise<string> {
    const zip = await promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)(path, { lazyEntries: true })
    zip.readEntry()
    for await (const [entry] of on(zip, 'entry') as AsyncIterable<[yauzl.Entry]>) {
      if (entry.fileName !== name) zip.readEntry()
      else {
        const open = promisify(zip.openReadStream.bind(zip)) as (of: yauzl.Entry) => Promise<Readable>
        return text(await open(entry))
      }
    }
    throw new Error(`no ${name} in ${path}`)
  }

  const storedTitle = async () => (await storedLesson(application.url, 'tide-table')).lesson.title
  const putBack = (lesson: Saved['lesson'], base: number) => storeLesson(application.url, 'tide-table', base, lesson)
})
