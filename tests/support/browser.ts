import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BoundingBox, Browser, ClickOptions, ElementHandle, Frame, JSHandle, Page, Point } from 'puppeteer-core'
import type { Lesson, LessonDocument } from '@/core/lesson/document'
import { documentOf, tell } from '@/core/lesson/telling'
import { HOUSE_RATE } from '@/core/units'
import { launchBrowser } from '@/demo/browser'
import { PATIENCE, until } from './application'
import { onRequests } from './requests'

/**
 * `args` for more; a `profile` that is given is kept, so that a browser can be opened again after a crash; one of its own goes
 * with it.
 */
export async function openBrowser(args: string[] = [], profile?: string): Promise<Browser> {
  const folder = profile ?? newProfile()
  const browser = await launchBrowser(folder, {
    defaultViewport: { width: 1280, height: 800 },
    // Longer than any wait, which would end by this else.
    protocolTimeout: 2 * PATIENCE,
    args: ['--autoplay-policy=no-user-gesture-required', ...args],
  })
  if (!profile) browser.process()?.once('exit', () => rmSync(folder, { recursive: true, force: true, maxRetries: 3 }))
  return browser
}

export const newProfile = (): string => mkdtempSync(join(tmpdir(), 'yarn-step-chromium-'))

/** A microphone that gives the samples of a WAV file from the moment it is opened, and is allowed without asking. */
export const fakeMicrophone = (wav: string): string[] => [
  '--use-fake-ui-for-media-stream',
  '--use-fake-device-for-media-stream',
  `--use-file-for-fake-audio-capture=${wav}%noloop`,
  '--auto-accept-this-tab-capture',
]

declare global {
  /** What tells of each page that is open; the environment asks where a test fails. */
  var openPages: Map<Page, () => Promise<string>> | undefined
}

/** A page that fails the test when something breaks in it. */
export async function openPage(
  browser: Pick<Browser, 'newPage'>,
  url: string,
): Promise<{ page: Page; faults: string[] }> {
  const page = await browser.newPage()
  page.setDefaultTimeout(PATIENCE)
  const faults: string[] = []
  page.on('pageerror', (error) => {
    // A bare event is of a part that could not be had: it is told below, and the page asks for it again.
    if (String(error) !== 'Event: Event') faults.push(String(error))
  })
  // Nothing wrong with that in itself, but it tells why something else is missing.
  const notHad: string[] = []
  page.on('requestfailed', (request) => {
    // A page fetched ahead that is no longer wanted is not missing.
    if (!request.url().includes('_rsc=')) notHad.push(`${request.url()}: ${request.failure()?.errorText}`)
  })
  page.on('response', (response) => {
    if (response.status() >= 400) notHad.push(`${response.url()}: ${response.status()}`)
    // A job may be asked for in vain, too.
    if (!response.url().includes('/api/jobs')) return
    const told = (text: string) => {
      if (text.includes('"failed"')) notHad.push(`${response.url()}: ${text.slice(0, 500)}`)
    }
    void response.text().then(told, () => {})
  })
  page.on('requestfailed', (request) => {
    const url = new URL(request.url())
    if (url.hostname !== '127.0.0.1' && url.protocol.startsWith('http')) faults.push(`asked another address: ${url}`)
  })
  tellWhereATestFails(page, notHad)
  await goTo(page, url)
  return { page, faults }
}

/** Until something can be done there: what is loaded, and taken over by its scripts. */
export async function goTo(page: Page, url: string): Promise<void> {
  await page.goto(url, { waitUntil: 'load' }).catch((error: Error) => {
    // A browser of somebody's own asks again by itself where its machine's network changes at that moment.
    if (!error.message.includes('ERR_NETWORK_CHANGED')) throw error
    return page.goto(url, { waitUntil: 'load' })
  })
  await waitUntilAlive(page)
}

/** What is done in a page of ours before its scripts have taken it over is heard by nobody. */
const waitUntilAlive = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => !('__next_f' in self) || document.documentElement.dataset.isAlive === 'yes', {
    polling: 50,
  })

function tellWhereATestFails(page: Page, notHad: readonly string[]): void {
  globalThis.openPages ??= new Map()
  globalThis.openPages.set(page, async () => {
    const shown = await whatIsShown(page).catch((error: Error) => `nothing: ${error.message}`)
    return [page.url(), shown, 'Not had:', ...notHad.slice(-10)].join('\n')
  })
  page.on('close', () => globalThis.openPages?.delete(page))
  page.browser().on('disconnected', () => globalThis.openPages?.delete(page))
}

/** Dialogs and messages before what lies under them. */
const whatIsShown = (page: Page): Promise<string> =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role=dialog], [role=alert], .ant-message'), document.body]
      .map((one) => one.innerText.slice(0, 1500))
      // What is folded away where a view broke says why.
      .concat([...document.querySelectorAll('[role=alert] pre')].map((one) => one.textContent!.slice(0, 1500)))
      .join('\n---\n'),
  )

/** Where something is waited for in vain, says what. */
export async function orName<T>(sought: string, wait: Promise<T>): Promise<T> {
  try {
    return await wait
  } catch (error) {
    throw new Error(`“${sought}” was waited for in vain.`, { cause: error })
  }
}

/** A button, link or label by what it says. */
export const clickOn = (page: Page, words: string): Promise<void> =>
  clickWhenStill(() =>
    orName(
      words,
      page.waitForFunction(
        (wanted) =>
          [
            ...document.querySelectorAll<HTMLElement>(
              'button, a, label, [role=menuitem], [role=tab], [role=button], summary',
            ),
          ].find(
            (one) =>
              !(one as HTMLButtonElement).disabled &&
              (one.textContent?.trim() === wanted || one.getAttribute('aria-label') === wanted),
          ) ?? null,
        {},
        words,
      ),
    ),
  )

/** One of the choices that stand side by side. */
export const chooseSegment = (page: Page, words: string, within = 'body'): Promise<void> =>
  clickWhenStill(() =>
    page.waitForFunction(
      (wanted, root) =>
        [...document.querySelectorAll<HTMLElement>(`${root} .ant-segmented-item`)].find(
          (one) => one.textContent === wanted,
        ) ?? null,
      {},
      words,
      within,
    ),
  )

/** What a selector finds, once it is there. */
export const clickAt = (
  page: Page | Frame,
  selector: string,
  options: Omit<ClickOptions, 'count'> = {},
): Promise<void> => clickWhenStill(async () => (await orName(selector, page.waitForSelector(selector)))!, options)

/** As a person does: what still moves, or has no place yet, is waited for; what has gone is looked for again. */
async function clickWhenStill(find: () => Promise<JSHandle>, options: ClickOptions = {}): Promise<void> {
  for (let tries = 0; tries < 20; tries++) {
    const handle = (await find()).asElement() as ElementHandle<HTMLElement>
    const isStill = await handle.evaluate(async (one) => {
      // A list or dialog that opens stands still for a moment before it moves.
      const isOpening = () => one.closest('[class*="-enter"], [class*="-appear"], [class*="-leave"]') !== null
      let before = ''
      for (let frame = 0; frame < 60; frame++) {
        const { x, y, width, height } = one.getBoundingClientRect()
        const place = width > 0 ? [x, y, width, height].join() : ''
        if (place !== '' && place === before && !isOpening()) return true
        before = place
        await new Promise(requestAnimationFrame)
      }
      return false
    })
    if (isStill && (await clicked(handle, options))) return
  }
  throw new Error('What was to be clicked on does not come to rest.')
}

/** False where it has gone before the mouse could be over it. */
async function clicked(handle: ElementHandle, options: ClickOptions): Promise<boolean> {
  try {
    await handle.click(options)
    return true
  } catch (error) {
    if (/Node is (detached|either not clickable)/.test((error as Error).message)) return false
    throw error
  }
}

/** Puts `words` in the place of what a field holds; the caret stays in it. */
export async function retype(page: Page, field: string, words: string): Promise<void> {
  await clickWhenStill(async () => (await orName(field, page.waitForSelector(field)))!, { count: 3 })
  const hasFocus = await page.$eval(field, (one) => one === document.activeElement)
  if (!hasFocus) throw new Error(`${field} does not take the focus.`)
  await page.keyboard.type(words)
}

/** An entry of a list that opens; `label` names the list. */
export async function chooseOption(page: Page, label: string, words: string, within = 'body'): Promise<void> {
  await clickAt(page, `${within} [aria-label="${label}"]`)
  const handle = await page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll<HTMLElement>('.ant-select-item-option')].find(
        (one) => one.textContent === wanted,
      ) ?? null,
    {},
    words,
  )
  // By its own click: the list still moves when it is there already.
  await (handle.asElement() as ElementHandle<HTMLElement>).evaluate((one) => one.click())
}

/** What opens has opened, and colours have come to rest; an animation that a click brings begins some frames after it. */
export const waitForRest = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    // What turns for as long as something is computed is at rest by that.
    const isMoving = () =>
      document
        .getAnimations()
        .some(({ playState, effect }) => playState === 'running' && effect?.getTiming().iterations !== Infinity)
    for (let still = 0; still < 10; still = isMoving() ? 0 : still + 1) await new Promise(requestAnimationFrame)
  })

/** Controls that reach beyond the window's right edge, by name. */
export const controlsBeyond = (page: Page): Promise<(string | null)[]> =>
  page.$$eval('button, a, input, [role=combobox], [role=radio]', (all) =>
    all
      .filter((one) => {
        const { right, width, height } = one.getBoundingClientRect()
        // What is kept for readers of screens has no size.
        return width > 2 && height > 2 && right > innerWidth + 1
      })
      .map((one) => one.getAttribute('aria-label') ?? one.textContent),
  )

export const waitForText = (page: Page, words: string, timeout = PATIENCE): Promise<unknown> =>
  page.waitForFunction((wanted) => document.body.innerText.includes(wanted), { timeout, polling: 200 }, words)

/** A dialog, once it stands still: what is clicked while it moves is not where it was. */
export async function waitForDialog(page: Page, title: string): Promise<void> {
  await waitForText(page, title)
  await page.waitForFunction(() => !document.querySelector('[class*="-zoom-"]'), { polling: 100 })
}

export async function chooseFiles(page: Page, testId: string, ...files: string[]): Promise<void> {
  const input = await page.waitForSelector(`[data-testid="${testId}"]`)
  await (input as ElementHandle<HTMLInputElement>).uploadFile(...files)
}

/** What the server says of a lesson, told in its own language. */
export interface Saved {
  lesson: Lesson
  revision: number
}

/** All changes that the page knows of by now; the word 'Saved' may still be that of before. */
export const waitUntilSaved = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => document.documentElement.dataset.areSaved === 'yes', { polling: 20 })

/** Does something by which the lesson is changed, at once or after a while, and waits until that is saved. */
export async function changed(page: Page, act: () => Promise<unknown>): Promise<void> {
  const before = await page.evaluate(() => Number(document.documentElement.dataset.changes))
  await act()
  await page.waitForFunction((count) => Number(document.documentElement.dataset.changes) > count, {}, before)
  await waitUntilSaved(page)
}

/** The lesson as it is in the database. */
export async function savedLesson(page: Page): Promise<Saved> {
  await waitUntilSaved(page)
  const { origin, pathname } = new URL(page.url())
  return storedLesson(origin, pathname.split('/')[2]!)
}

/** The same, as another window would ask for it. */
export async function storedLesson(url: string, id: string): Promise<Saved> {
  // A database that is busy for a while answers that it is away; a page asks again, too.
  const answer = await until(async () => {
    const one = await fetch(`${url}/api/lessons/${id}`)
    return one.status < 500 && one
  })
  const { lesson, ...rest } = (await answer.json()) as { lesson: LessonDocument; revision: number }
  return { ...rest, lesson: tell(lesson) }
}

/** Saves a lesson as another window would. */
export async function storeLesson(url: string, id: string, base: number, lesson: Lesson): Promise<void> {
  const body = JSON.stringify({ base, save: `test-${base}-${Date.now()}`, lesson: documentOf(lesson) })
  expect((await fetch(`${url}/api/lessons/${id}`, { method: 'PUT', body })).status).toBe(200)
}

/** An empty lesson, made as another window would make it; returns its id. */
export async function newLesson(url: string, title: string, course: string | null = null): Promise<string> {
  const body = JSON.stringify({ course, title, pictures: [], voices: [], music: [] })
  const answer = await fetch(`${url}/api/lessons`, { method: 'POST', body })
  return ((await answer.json()) as { id: string }).id
}

/** Waits for a lesson's sheet to be ready: rows drawn, mix planned. */
export const waitForSheet = (page: Page): Promise<unknown> =>
  page.waitForFunction(
    () =>
      document.querySelectorAll('[role=row]').length > 0 &&
      // What it says where nothing is heard is no figure, but is said once the mix is planned.
      Boolean(document.querySelector('[data-figure=bed]')?.textContent),
    {},
  )

/** Until the words stand where they are heard: before that they are spread over the take, and pauses are not yet known. */
export const waitForWords = (page: Page): Promise<unknown> =>
  page.waitForFunction(
    () =>
      document.querySelectorAll('[data-word]').length > 20 && !document.body.innerText.includes('Finding the words in'),
    {},
  )

declare global {
  // Set by the player (see src/ui/player/player.ts) and by the capture below.
  var yarnStepOutput: { context: AudioContext; node: AudioNode } | undefined
  var yarnStepCaptured: Float32Array[][] | undefined
}

/** From now on keeps every sample that leaves the player. Playing must have begun. */
export async function captureSound(page: Page): Promise<void> {
  await page.waitForFunction(() => globalThis.yarnStepOutput !== undefined)
  // The page runs scripts from its own address only, so this one comes from there.
  const end = await onRequests(page, `*${TAP_ADDRESS}`, () => ({ type: 'text/javascript', body: TAP }))
  await page.evaluate(async (source) => {
    const { context, node } = globalThis.yarnStepOutput!
    await context.audioWorklet.addModule(source)
    const captured: Float32Array[][] = [[], []]
    globalThis.yarnStepCaptured = captured
    const tap = new AudioWorkletNode(context, 'tap', { numberOfOutputs: 0 })
    tap.port.onmessage = ({ data }: MessageEvent<Float32Array[]>) => data.forEach((part, c) => captured[c]!.push(part))
    node.connect(tap)
  }, TAP_ADDRESS)
  await end()
}

const TAP_ADDRESS = '/tap-of-a-test.js'

/** Runs on the audio thread, so that nothing is lost when the page is busy. A second capture finds it registered. */
const TAP = `
class Tap extends AudioWorkletProcessor {
  process([input]) {
    if (input.length === 2) this.port.postMessage(input)
    return true
  }
}
try { registerProcessor('tap', Tap) } catch {}
`

/** What is recorded is counted (less than a minute), not what passes here: a busy machine may be late with either. */
export const recordUntil = (page: Page, seconds: number): Promise<unknown> =>
  page.waitForFunction(
    (end) => Number(document.querySelector('[data-testid="recorded-time"]')?.textContent?.split(':')[1]) >= end,
    { polling: 50 },
    seconds,
  )

/** Only how much there is: the sound itself takes long to come out of the page. */
export const capturedSeconds = (page: Page): Promise<number> =>
  page.evaluate(
    (rate) => globalThis.yarnStepCaptured![0]!.reduce((sum, { length }) => sum + length, 0) / rate,
    HOUSE_RATE,
  )

export const waitForCaptured = (page: Page, seconds: number): Promise<void> =>
  until(async () => (await capturedSeconds(page)) >= seconds).then(() => undefined)

export async function capturedSound(page: Page): Promise<Float32Array[]> {
  const channels = await page.evaluate(() =>
    Promise.all(
      globalThis.yarnStepCaptured!.map(
        (parts) =>
          new Promise<string>((resolve) => {
            const reader = new FileReader()
            reader.onload = () => resolve(reader.result as string)
            reader.readAsDataURL(new Blob(parts as Float32Array<ArrayBuffer>[]))
          }),
      ),
    ),
  )
  return channels.map((url) => {
    const bytes = Uint8Array.from(Buffer.from(url.slice(url.indexOf(',') + 1), 'base64'))
    return new Float32Array(bytes.buffer)
  })
}

export const middleOf = (box: BoundingBox | null): Point => ({
  x: box!.x + box!.width / 2,
  y: box!.y + box!.height / 2,
})

/** Puts a pen down, draws it along and lifts it, as the system tells a browser of a pen. */
export async function penDrag(page: Page, from: Point, by: Point): Promise<void> {
  const session = await page.createCDPSession()
  const pen = (type: 'mouseMoved' | 'mousePressed' | 'mouseReleased', share: number, isDown: boolean) =>
    session.send('Input.dispatchMouseEvent', {
      type,
      x: from.x + share * by.x,
      y: from.y + share * by.y,
      pointerType: 'pen',
      ...(isDown && { force: 0.5 }),
      ...(type === 'mouseMoved' ? { button: 'none', buttons: isDown ? 1 : 0 } : { button: 'left', clickCount: 1 }),
    })
  await pen('mouseMoved', 0, false)
  await pen('mousePressed', 0, true)
  for (let step = 1; step <= 8; step++) await pen('mouseMoved', step / 8, true)
  await pen('mouseReleased', 1, false)
  await session.detach()
}
