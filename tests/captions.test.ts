import type { Page } from 'puppeteer-core'
import { readCaptions } from '@/core/formats/readCaptions'
import { madeFile, until } from './support/application'
import {
  chooseSegment,
  clickAt,
  clickOn,
  retype,
  savedLesson,
  waitForSheet,
  waitForText,
  waitForWords,
} from './support/browser'
import { sharedSession } from './support/session'

/** Captions are corrected beside the words they stand for, and come so in every file. */

const session = sharedSession('/lessons/crossing-the-bar')
const SECOND = 'c2'
let page: Page
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
  await waitForWords(page)
})

/** As they are in the file that viewers get. */
async function delivered() {
  await savedLesson(page)
  const file = await madeFile(session.application.url, session.lessonId(), 'captions-vtt')
  return readCaptions(new TextDecoder().decode(file))
}
const texts = async () => (await delivered()).map(({ text }) => text)

const FIELDS = 'ol[aria-label="Captions of this step"] textarea:not([aria-hidden])'
const shown = () => page.$$eval(FIELDS, (all) => all.map((one) => (one as HTMLTextAreaElement).value))

async function openCaptions(): Promise<void> {
  await clickAt(page, `[data-step="${SECOND}"] [title^="Click to select"]`)
  await page.keyboard.down('Control')
  await page.keyboard.press('k')
  await page.keyboard.up('Control')
  await page.waitForSelector('[role=combobox][aria-label^="What do"]')
  await page.keyboard.type('subtitles line break')
  await page.waitForSelector('[role=option][aria-selected=true]')
  await page.keyboard.press('Enter')
  await page.waitForSelector(FIELDS)
}

test('sounds that have something to be read are in brackets', async () => {
  const captions = await delivered()
  expect(captions[0]!.text).toBe("[a ship's bell]")
  expect(captions[0]!.start).toBeCloseTo(0.4, 1)
  expect(captions[1]!.text).toBe('Crossing the bar of Skerrow Harbour.')
})

test('what is found by what people call it opens the captions of the step', async () => {
  await openCaptions()
  expect((await shown())[0]).toContain('Before you go,')
})

test('a caption that is typed otherwise reads so in the file, at the time of its words', async () => {
  const before = await delivered()
  const old = (await shown())[0]!.replaceAll('\n', ' ')
  const index = before.findIndex(({ text }) => text === old)
  const field = (await page.$$(FIELDS))[0]!
  await field.click()
  await page.keyboard.down('Control')
  await page.keyboard.press('a')
  await page.keyboard.up('Control')
  await page.keyboard.type('First watch the bar.')
  await until(async () => (await session.lesson()).captionCorrections[0]?.text === 'First watch the bar.')
  const after = await delivered()
  expect(after[index]).toMatchObject({ text: 'First watch the bar.', start: before[index]!.start })
  // The script is as it was, and so is what is read of it everywhere else.
  expect(after.map(({ text }) => text).toSpliced(index, 1)).toEqual(before.map(({ text }) => text).toSpliced(index, 1))
  await clickOn(page, 'As it was made')
  expect(await texts()).toEqual(before.map(({ text }) => text))
})

test('a caption is parted at the caret and joined with the next; all of it is undone', async () => {
  const before = await session.lesson()
  const [first, second] = await shown()
  const field = (await page.$$(FIELDS))[0]!
  await field.focus()
  await page.keyboard.down('Control')
  await page.keyboard.press('Home')
  await page.keyboard.up('Control')
  for (let i = 0; i < 'Before you go,'.length; i++) await page.keyboard.press('ArrowRight')
  await clickOn(page, 'Part at the caret')
  await until(async () => (await shown())[0] === 'Before you go,')
  expect(await texts()).toContain('Before you go,')
  await clickOn(page, 'Join with the next')
  await until(async () => (await shown())[0]?.startsWith('Before you go,\n'))
  await session.undoTo(before)
  expect((await shown()).slice(0, 2)).toEqual([first, second])
})

test('a correction whose words are no longer said is told, and taken away', async () => {
  const before = await session.lesson()
  const field = (await page.$$(FIELDS))[0]!
  await field.click()
  await page.keyboard.press('End')
  await page.keyboard.type('!')
  await until(async () => (await session.lesson()).captionCorrections.length === 1)
  await retype(page, '#step-script', 'Now something else is said.')
  await page.waitForFunction(() => document.body.innerText.includes('One corrected caption of this lesson had words'))
  await clickOn(page, 'Take it away')
  expect((await session.lesson()).captionCorrections).toEqual([])
  await session.undoTo(before)
})

test('what is found before delivery is mended in one press, and the press undone', async () => {
  const before = await session.lesson()
  const field = (await page.$$(FIELDS))[0]!
  await field.click()
  await page.keyboard.press('End')
  await page.keyboard.type('!')
  await until(async () => (await session.lesson()).captionCorrections.length === 1)
  await retype(page, '#step-script', 'Now something else is said.')
  await clickOn(page, 'Finish')
  await waitForText(page, 'One corrected caption had words that are no longer said.')
  await clickOn(page, 'Take them away')
  await page.waitForFunction(() => !document.body.innerText.includes('One corrected caption'))
  expect((await session.lesson()).captionCorrections).toEqual([])
  await clickOn(page, 'Undo')
  expect((await session.lesson()).captionCorrections).toHaveLength(1)
  await session.undoTo(before)
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
})

test('captions are set larger at the upper edge, and the easel shows them so', async () => {
  const before = await session.lesson()
  await chooseSegment(page, 'Video', 'aside')
  await page.waitForSelector('[aria-label="Size of captions"]')
  await chooseSegment(page, 'large', '[aria-label="Size of captions"]')
  await chooseSegment(page, 'upper edge', '[aria-label="Place of captions"]')
  expect((await session.lesson()).look.captions).toMatchObject({ size: 'large', place: 'upper' })
  await clickAt(page, `[data-step="${SECOND}"] [data-word="1"]`)
  // Drawn by the server, as it is drawn into the file.
  const drawn = await page.waitForSelector('[data-testid=easel] img[src*="/api/layers"]')
  const svg = await (await fetch(await drawn!.evaluate((one) => (one as HTMLImageElement).src))).text()
  const [, top, height] = /<rect [^>]*y="([\d.]+)"[^>]*height="([\d.]+)"/.exec(svg)!.map(Number)
  expect(top).toBeLessThan(60)
  // Two lines of the usual size have about 170 units.
  expect(height).toBeGreaterThan(75)
  await session.undoTo(before)
})
