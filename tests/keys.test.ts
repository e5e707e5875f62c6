import type { CDPSession, Page } from 'puppeteer-core'
import {
  chooseSegment,
  clickAt,
  clickOn,
  retype,
  savedLesson,
  waitForDialog,
  waitForRest,
  waitForSheet,
  waitForText,
} from './support/browser'
import { until } from './support/application'
import { sharedSession } from './support/session'

/** Keys and fields as people use them: on the keyboards they have, with commas, without motion. */

const session = sharedSession('/lessons/tide-table')
let page: Page
let keyboard: CDPSession
beforeAll(async () => {
  page = session.page
  keyboard = await page.createCDPSession()
  await waitForSheet(page)
})

/** Some components still look at these. */
const NUMBERS: Record<string, number> = { Escape: 27, End: 35, Home: 36, ArrowRight: 39, ArrowDown: 40, Delete: 46 }
const SHIFT = 8
const CONTROL = 2
/** A key as a real keyboard sends it: what it writes, where it is, what is held. */
async function strike(key: string, code: string, modifiers = 0): Promise<void> {
  const text = modifiers & CONTROL || key.length > 1 ? undefined : key
  const sent = { key, code, modifiers, windowsVirtualKeyCode: NUMBERS[key] }
  await keyboard.send('Input.dispatchKeyEvent', { type: 'keyDown', text, ...sent })
  await keyboard.send('Input.dispatchKeyEvent', { type: 'keyUp', ...sent })
}

type Key = [key: string, code: string, modifiers: number]
const LAYOUTS: Record<string, { help: Key; larger: Key; z: string; y: string }> = {
  US: { help: ['?', 'Slash', SHIFT], larger: ['+', 'Equal', SHIFT], z: 'KeyZ', y: 'KeyY' },
  German: { help: ['?', 'Minus', SHIFT], larger: ['+', 'BracketRight', 0], z: 'KeyY', y: 'KeyZ' },
  French: { help: ['?', 'KeyM', SHIFT], larger: ['+', 'Equal', SHIFT], z: 'KeyW', y: 'KeyY' },
}

/** How far apart the first and the fourth word of the lesson are drawn. */
const wordsApart = () =>
  page.$$eval('[data-word]', (all) => all[3]!.getBoundingClientRect().left - all[0]!.getBoundingClientRect().left)

test.each(Object.entries(LAYOUTS))('on a %s keyboard keys do what they write', async (_, { help, larger, z, y }) => {
  const before = await savedLesson(page)
  await strike(...help)
  await waitForDialog(page, 'Keys of the sheet')
  await strike('Escape', 'Escape')
  await page.waitForFunction(() => !document.querySelector('.ant-modal-wrap:not([style*="display: none"])'))
  // From the first step: what is far away is not drawn.
  await strike('Home', 'Home')
  await page.waitForFunction(() => document.querySelector('[data-word]')?.textContent === 'Reading')
  const apart = await wordsApart()
  await strike(...larger)
  await until(async () => (await wordsApart()) > apart * 1.1)
  await strike('-', 'Minus')
  await strike('End', 'End')
  await strike('Delete', 'Delete')
  await savedLesson(page)
  await strike('z', z, CONTROL)
  expect((await savedLesson(page)).lesson).toEqual(before.lesson)
  await strike('y', y, CONTROL)
  expect((await savedLesson(page)).lesson.steps).toHaveLength(before.lesson.steps.length - 1)
  await strike('z', z, CONTROL)
  expect((await savedLesson(page)).lesson).toEqual(before.lesson)
})

test('a key is changed by striking another, does what it was given, and the usual one comes back', async () => {
  const before = await savedLesson(page)
  await strike('?', 'Slash', SHIFT)
  await waitForDialog(page, 'Keys of the sheet')
  const row = (start: string) => page.waitForSelector(`[role=dialog] button[aria-label^="${start}"]`)
  await (await row('Duplicate the selected steps'))!.click()
  await strike('j', 'KeyJ')
  await page.waitForSelector('[aria-label="Duplicate the selected steps: J"]')
  // A key does one thing: its first owner has none any more.
  await (await row('Join this step'))!.click()
  await strike('j', 'KeyJ')
  await page.waitForSelector('[aria-label="Join this step with the one before: J"]')
  await page.waitForSelector('[aria-label="Duplicate the selected steps: none"]')
  await (await row('Duplicate the selected steps'))!.click()
  await strike('j', 'KeyJ')
  await strike('Escape', 'Escape')
  await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
  await strike('Home', 'Home')
  await strike('j', 'KeyJ')
  expect((await savedLesson(page)).lesson.steps).toHaveLength(before.lesson.steps.length + 1)
  await session.undoTo(before.lesson)
  await strike('?', 'Slash', SHIFT)
  await waitForDialog(page, 'Keys of the sheet')
  await clickOn(page, 'Back to the usual keys')
  await page.waitForFunction(() => document.querySelector('[aria-label^="Duplicate"]')?.textContent === 'Ctrl D')
  await strike('Escape', 'Escape')
  await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
})

test('with reduced motion dialogs and lists open, close, and let clicks through', async () => {
  await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }])
  await strike('?', 'Slash', SHIFT)
  await waitForText(page, 'Keys of the sheet')
  await strike('Escape', 'Escape')
  await page.waitForFunction(() => !document.querySelector('.ant-modal-wrap:not([style*="display: none"])'))
  await clickAt(page, '[aria-label="What is heard"]')
  await page.waitForSelector('.ant-select-item-option')
  await strike('Escape', 'Escape')
  await page.waitForFunction(() => !document.querySelector('.ant-select-dropdown:not(.ant-select-dropdown-hidden)'))
  await clickOn(page, 'Find')
  await page.waitForSelector('input[aria-label*="ind"]')
  await strike('Escape', 'Escape')
  await page.emulateMediaFeatures([])
})

test('a comma is a decimal mark in every number field', async () => {
  const before = await savedLesson(page)
  await chooseSegment(page, 'Music')
  await retype(page, 'input[aria-label="Level of Music"]', '-1,5')
  await page.keyboard.press('Tab')
  expect((await savedLesson(page)).lesson.tracks.bed.gain).toBe(-1.5)
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before.lesson)
})

test('what is heard alone is shown wherever it can be chosen, and stays until it is changed', async () => {
  const shown = () => page.$eval('[aria-label="Hear Music alone"]', (one) => one.getAttribute('aria-checked'))
  await clickOn(page, 'Hear Music alone')
  await chooseSegment(page, 'Sounds')
  await chooseSegment(page, 'Music')
  expect(await shown()).toBe('true')
  await waitForText(page, 'Music only')
  await clickOn(page, 'Balance')
  await page.waitForFunction(
    () => document.querySelector('[aria-label="What is heard"] .ant-segmented-item-selected')?.textContent === 'Music',
  )
  await chooseSegment(page, 'All', '[aria-label="What is heard"]')
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
  await chooseSegment(page, 'Music')
  expect(await shown()).toBe('false')
})

test('a point of the gain line stays chosen when it is clicked, and can be typed', async () => {
  const before = await savedLesson(page)
  await clickOn(page, 'Balance')
  await clickOn(page, 'Softer here')
  await page.mouse.click(5, 5)
  const point = (await page.waitForSelector('svg g[role=button]'))!
  await point.click()
  await page.waitForSelector('svg g[data-chosen]')
  await retype(page, 'input[aria-label="Gain of the chosen points"]', '-3,5')
  await page.keyboard.press('Enter')
  expect((await savedLesson(page)).lesson.nudges.map(({ gain }) => gain)).toContain(-3.5)
  await session.undoTo(before.lesson)
})

test('listening to a take leaves the playhead where it was; Space at the end plays from the beginning', async () => {
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
  await strike('Home', 'Home')
  for (let i = 0; i < 3; i++) await strike('ArrowDown', 'ArrowDown')
  const time = () => page.$eval('[data-testid="time"]', (one) => one.textContent!)
  // It is written a frame after the key.
  await waitForRest(page)
  const before = await time()
  expect(before).not.toMatch(/^0:00/)
  await clickOn(page, 'Booth')
  await clickAt(page, 'section[aria-label="Takes of this step"] button[aria-label^="Play "]')
  await page.waitForSelector('section[aria-label="Takes of this step"] button[aria-label^="Stop "]')
  await new Promise((resolve) => setTimeout(resolve, 1200))
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
  expect(await time()).toBe(before)
})

test('a step that is chosen is what the panel shows; a word that is gone to leaves the panel', async () => {
  await chooseSegment(page, 'Sounds')
  await clickAt(page, '[role=row] [data-word="1"]')
  expect(await page.$('#step-title')).toBeNull()
  await clickAt(page, '[role=row][aria-label^="Step 2"] [data-margin]')
  await page.waitForSelector('#step-title')
})

test('a row of keys on one slider is one step of undo, and the slider keeps the focus', async () => {
  const before = (await savedLesson(page)).lesson
  await page.goto(`${session.application.url}/lessons/${session.lessonId()}/balance`)
  const clearance = '[role=slider][aria-label="Clearance under the voice"]'
  await (await page.waitForSelector(clearance))!.focus()
  for (let key = 0; key < 3; key++) await strike('ArrowRight', 'ArrowRight')
  await until(async () => (await savedLesson(page)).lesson.targets.clearance === before.targets.clearance + 3)
  expect(await page.$eval(clearance, (one) => one === document.activeElement)).toBe(true)
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
  await page.waitForSelector('[aria-label="Undo"]:disabled')
  await page.goto(`${session.application.url}/lessons/${session.lessonId()}`)
  await waitForSheet(page)
})

test('in the booth Space and arrows belong to what is focused', async () => {
  await clickOn(page, 'Booth')
  await page.waitForSelector('nav[aria-label=Steps] [aria-current]')
  const chosenStep = () =>
    page.$$eval('nav[aria-label=Steps] [aria-current]', (all) => all.map((one) => one.textContent))
  const current = await chosenStep()
  await clickOn(page, 'Save the whole voice')
  await page.waitForSelector('.ant-dropdown:not(.ant-dropdown-hidden)')
  await strike('ArrowDown', 'ArrowDown')
  await strike('r', 'KeyR')
  expect(await chosenStep()).toEqual(current)
  await strike('Escape', 'Escape')
})
