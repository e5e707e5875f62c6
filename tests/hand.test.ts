import type { ElementHandle, Page } from 'puppeteer-core'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { until } from './support/application'
import { clickOn, controlsBeyond, savedLesson, waitForSheet, waitForText, waitForWords } from './support/browser'
import { sharedSession } from './support/session'

/** What lies on the sheet is taken hold of there: picked, dragged, pushed by keys, and has a menu of its own. */

const session = sharedSession('/lessons/crossing-the-bar')
let page: Page
let before: Lesson
const lesson = async (): Promise<Lesson> => (await savedLesson(page)).lesson
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
  await waitForWords(page)
})
beforeEach(async () => {
  before = await lesson()
})
/** Whatever a test has done is undone before the next one. */
afterEach(async () => {
  await page.keyboard.press('Escape')
  for (let i = 0; i < 8 && JSON.stringify(await lesson()) !== JSON.stringify(before); i++) await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

const startOf = ({ sounds }: ReturnType<typeof layoutLesson>, media: string) =>
  sounds.find(({ cue }) => cue.media === media)!.start
const tab = (text: string): Promise<ElementHandle<HTMLElement>> =>
  page
    .waitForFunction(
      (wanted) =>
        [...document.querySelectorAll('[data-thing]')].find((one) => one.textContent?.includes(wanted)) ?? null,
      {},
      text,
    )
    .then((handle) => handle as unknown as ElementHandle<HTMLElement>)
const word = (step: number, text: string): Promise<ElementHandle<HTMLElement>> =>
  page
    .waitForFunction(
      (label, wanted) =>
        [...document.querySelectorAll(`[role=row][aria-label^="${label}"] [data-word]`)].find((one) =>
          one.textContent?.startsWith(wanted),
        ) ?? null,
      {},
      `Step ${step},`,
      text,
    )
    .then((handle) => handle as unknown as ElementHandle<HTMLElement>)
async function centre(handle: ElementHandle): Promise<[number, number]> {
  const { x, y, width, height } = (await handle.boundingBox())!
  return [x + width / 2, y + height / 2]
}
async function chooseInMenu(on: ElementHandle, title: string, at?: { x: number; y: number }): Promise<void> {
  await on.click({ button: 'right', ...(at && { offset: at }) })
  await clickOn(page, title)
  await page.waitForFunction(() => !document.querySelector('[role=menuitem]'))
}

test('a sound is dragged by its tab to a word, shows where it would go, and begins with it', async () => {
  const bell = before.sounds[0]!
  const from = await centre(await tab('bell'))
  const to = await centre(await word(2, 'watch'))
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move(from[0] + 10, from[1] + 10)
  await page.mouse.move(...to, { steps: 5 })
  expect(await page.$eval('[data-target]', (one) => one.textContent)).toBe('watch')
  await page.mouse.up()
  const after = await lesson()
  expect(after.sounds[0]!.anchor).toMatchObject({ kind: 'mark', offset: 0 })
  const start = await (
    await word(2, 'watch')
  ).evaluate((one) => Number(one.closest<HTMLElement>('[data-start]')!.dataset.start) + Number(one.dataset.from))
  expect(startOf(layoutLesson(after), bell.media)).toBeCloseTo(start, 2)
})

test('a picked sound goes by keys: words by arrows, moments by comma and point; Delete takes it out', async () => {
  await (await tab('Two bells')).click()
  await waitForText(page, 'Sound · Two bells')
  const two = before.sounds.find(({ media }) => before.shelf.find((one) => one.media === media)?.title === 'Two bells')!
  const start = async () => startOf(layoutLesson(await lesson()), two.media)
  const first = await start()
  await page.keyboard.press('.')
  expect(await start()).toBeCloseTo(first + 0.1)
  await page.keyboard.press(',')
  expect(await start()).toBeCloseTo(first)
  await page.keyboard.press('ArrowLeft')
  expect(await start()).toBeLessThan(first)
  await page.keyboard.press('Delete')
  expect((await lesson()).sounds.map(({ id }) => id)).not.toContain(two.id)
  await page.waitForFunction(() => document.querySelector('[aria-label=Settings]')?.textContent?.includes('Step '))
})

test('what lies on the sheet is gone through by T, and let go of by Escape', async () => {
  await (await word(1, 'Crossing')).click()
  const kinds: string[] = []
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('t')
    kinds.push(await page.$eval('[data-thing][aria-pressed=true]', (one) => one.getAttribute('title')!))
  }
  expect(kinds[0]).toMatch(/^Music: Ebb\./)
  expect(new Set(kinds).size).toBe(3)
  await page.keyboard.press('Escape')
  expect(await page.$('[data-thing][aria-pressed=true]')).toBeNull()
})

test('words have their menu: a longer pause is put in before one', async () => {
  const length = (of: Lesson) => layoutLesson(of).steps[1]!.end - layoutLesson(of).steps[1]!.start
  await chooseInMenu(await word(2, 'watch'), 'A longer pause before this wordP')
  expect(length(await lesson())).toBeCloseTo(length(before) + 0.25, 2)
  await page.keyboard.down('Shift')
  await page.keyboard.press('P')
  await page.keyboard.up('Shift')
  expect(length(await lesson())).toBeCloseTo(length(before), 2)
})

test('F2 corrects the word at the caret, without a mouse', async () => {
  await (await word(2, 'watch')).click()
  await page.keyboard.press('F2')
  await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Correct “watch”')
  await page.keyboard.down('Control')
  await page.keyboard.press('a')
  await page.keyboard.up('Control')
  await page.keyboard.type('observe')
  await page.keyboard.press('Enter')
  expect((await lesson()).steps[1]!.script).toContain('observe the bar')
})

test('the music has its menu: quieter in one step only', async () => {
  const canvas = (await page.$('[role=row][aria-label^="Step 2,"] canvas'))!
  const { height } = (await canvas.boundingBox())!
  await chooseInMenu(canvas, 'Make the music quieter in this step', { x: 200, y: height - 12 })
  const { nudges } = await lesson()
  expect(nudges.length - before.nudges.length).toBe(4)
  const inside = nudges.filter(({ gain }) => gain === -3)
  expect(inside).toHaveLength(2)
})

test('a length has its menu: a step stays as long as it does now', async () => {
  const length = (await page.$('[role=row][aria-label^="Step 2,"] [data-length] button'))!
  await chooseInMenu(length, 'Keep the step at the length it has now')
  const span = layoutLesson(before).steps[1]!
  const rule = (await lesson()).steps[1]!.length
  expect(rule.kind).toBe('fixed')
  expect((rule as { length: number }).length).toBeCloseTo(span.end - span.start, 2)
})

test('the edge of what is heard and the end of a step are moved by keys', async () => {
  await (await word(2, 'watch')).click()
  const passage = before.steps[1]!.passages[0]!
  await page.focus('[role=row][aria-label^="Step 2,"] [aria-label="Beginning of what is heard"]')
  await page.keyboard.press('ArrowRight')
  await until(async () => Math.abs((await lesson()).steps[1]!.passages[0]!.from - passage.from - 0.01) < 1e-6)
  const words = (of: Lesson, step: number) => of.steps[step]!.script.split(/\s+/).length
  await page.focus('[role=row][aria-label^="Step 2,"] [aria-label="End of the step"]')
  await page.keyboard.press('ArrowLeft')
  const after = await lesson()
  expect(words(after, 1)).toBe(words(before, 1) - 1)
  expect(words(after, 2)).toBe(words(before, 2) + 1)
})

test('of a step that is longer than the window its beginning is shown', async () => {
  await page.setViewport({ width: 1280, height: 300 })
  // The list hears of its new height a frame later.
  await page.waitForFunction(() => document.querySelector('[data-testid=score]')!.clientHeight < 300)
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
  await page.focus('[role=grid]')
  await page.keyboard.press('End')
  let tall = 0
  for (let index = before.steps.length - 1; index >= 0; index--) {
    await page.waitForFunction(
      (id) => document.querySelector('[role=grid]')?.getAttribute('aria-activedescendant')?.includes(id),
      {},
      before.steps[index]!.id,
    )
    const place = await page.evaluate(async () => {
      await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
      const row = document.getElementById(
        document.querySelector('[role=grid]')!.getAttribute('aria-activedescendant')!,
      )!
      const [{ top, height }, score] = [
        row.getBoundingClientRect(),
        document.querySelector('[data-testid=score]')!.getBoundingClientRect(),
      ]
      return { top: top - score.top, height, room: score.height }
    })
    if (place.height > place.room) tall++
    expect(place.top).toBeGreaterThanOrEqual(-1)
    expect(place.top).toBeLessThan(place.height > place.room ? 1 : place.room)
    await page.keyboard.press('ArrowUp')
  }
  expect(tall).toBeGreaterThan(0)
  await page.setViewport({ width: 1280, height: 800 })
})

test('the side is made wider by keys, and stays so', async () => {
  const width = () => page.$eval('aside', (one) => one.getBoundingClientRect().width)
  const first = await width()
  await page.focus('[aria-label="Width of the side"]')
  await page.keyboard.press('ArrowLeft')
  expect(await width()).toBe(first + 24)
  await page.reload()
  await waitForSheet(page)
  expect(await width()).toBe(first + 24)
  await page.focus('[aria-label="Width of the side"]')
  await page.keyboard.press('ArrowRight')
  expect(await width()).toBe(first)
})

test.each([
  ['enlarged to 200 %', 640, 400],
  ['on a phone', 390, 800],
  ['in a small window', 1024, 640],
])('%s every view has all its controls in reach, and settings are there or unfold', async (_, width, height) => {
  await page.setViewport({ width, height })
  for (const view of ['Booth', 'Balance', 'Finish', 'Sheet']) {
    await clickOn(page, view)
    await page.waitForFunction(
      (name) => document.querySelector('[aria-current=page]')?.textContent?.startsWith(name),
      {},
      view,
    )
    await page.waitForNetworkIdle({ idleTime: 300, timeout: 20_000 }).catch(() => null)
    expect({ view, beyond: await controlsBeyond(page) }).toEqual({ view, beyond: [] })
    expect(await page.evaluate(() => document.scrollingElement!.scrollWidth)).toBeLessThanOrEqual(width)
  }
  await waitForSheet(page)
  const isNarrow = width < 1000
  if (isNarrow) {
    await page.waitForSelector('#step-title', { hidden: true })
    await clickOn(page, 'Settings')
  }
  await page.waitForSelector('#step-title', { visible: true })
  expect(await controlsBeyond(page)).toEqual([])
  if (isNarrow) await clickOn(page, 'Fold the settings')
  await page.setViewport({ width: 1280, height: 800 })
})

test('a finger that rests on a step takes hold of it; one that moves at once scrolls', async () => {
  const margin = (step: number) => page.waitForSelector(`[role=row][aria-label^="Step ${step},"] [data-margin]`)
  const [x, from] = await centre((await margin(2))!)
  const [, to] = await centre((await margin(1))!)
  const swipe = async (rest: number) => {
    await page.touchscreen.touchStart(x, from)
    await new Promise((resolve) => setTimeout(resolve, rest))
    for (let part = 1; part <= 8; part++) await page.touchscreen.touchMove(x, from + ((to - from) * part) / 8)
    await page.touchscreen.touchEnd()
  }
  await swipe(0)
  expect((await lesson()).steps.map(({ id }) => id)).toEqual(before.steps.map(({ id }) => id))
  await page.$eval('[role=row]', (row) => {
    for (let one = row.parentElement; one; one = one.parentElement) one.scrollTop = 0
  })
  await swipe(500)
  const [first, second, ...rest] = before.steps.map(({ id }) => id)
  await until(async () => (await lesson()).steps.map(({ id }) => id).join() === [second, first, ...rest].join())
})
