import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { speedOf } from '@/core/picture/motion'
import { HOUSE_RATE } from '@/core/units'
import { output, rawFile, scratch } from './support/application'
import {
  chooseFiles,
  chooseOption,
  chooseSegment,
  clickAt,
  clickOn,
  waitForSheet,
  waitForText,
  goTo,
} from './support/browser'
import { sharedSession } from './support/session'
import { rms } from './support/sound'

/** What is seen when: several pictures in a step, recordings made to fit, slides replaced by a new version. */

const session = sharedSession('/lessons/tide-table')
const { lesson, undoTo } = session
const folder = scratch()
let page: Page
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
})

async function select(step: string): Promise<void> {
  await page.keyboard.press('Home')
  for (let i = 0; i < 40; i++) {
    const margin = await page.$(`[data-step="${step}"] [title^="Click to select"]`)
    if (margin) return margin.click()
    await page.keyboard.press('ArrowDown')
  }
  throw new Error(`no row for ${step}`)
}

test('a further picture is seen from its word on, and goes with the word', async () => {
  const before = await lesson()
  const step = before.steps[1]!
  await select(step.id)
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  await chooseSegment(page, 'Selected')
  await clickOn(page, 'Further pictures')
  const list = (await page.waitForSelector('[aria-label="Another picture at the caret"]'))!
  await list.click()
  await page.waitForSelector('.ant-select-item-option')
  await (await page.$$('.ant-select-item-option'))[3]!.click()
  const after = await lesson()
  expect(after.steps[1]!.more).toHaveLength(1)
  const [first, second] = layoutLesson(after).pictures.filter((one) => one.step.id === step.id)
  expect(second!.start).toBeGreaterThan(first!.start + 0.5)
  // What the easel shows at the two moments is the one and the other picture.
  const shown = () => page.$eval('[data-testid=easel] img', (image) => (image as HTMLImageElement).src)
  const atWord = await shown()
  await clickAt(page, `[data-step="${step.id}"] [data-word="2"]`)
  await page.waitForFunction(
    (was) => document.querySelector<HTMLImageElement>('[data-testid=easel] img')?.src !== was,
    {},
    atWord,
  )
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('a recording is made as long as its words, pinned to a word, and cut', async () => {
  const before = await lesson()
  const step = before.steps.find(({ picture }) => picture.kind === 'recording')!
  await select(step.id)
  await chooseOption(page, 'Speed of the recording', 'as long as its words')
  const spanOf = (of: Lesson) => layoutLesson(of).pictures.find((one) => one.step.id === step.id)!
  const fitted = spanOf(await lesson())
  const words = layoutLesson(before).passages.filter((one) => one.step.id === step.id)
  const moving = fitted.motions.filter((motion) => speedOf(motion) > 0)
  expect(moving.at(-1)!.end).toBeCloseTo(words.at(-1)!.end, 1)

  // The playhead stands at the caret; what is seen there is pinned to a word three further on.
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight')
  await clickOn(page, 'Pins, cuts and scenes of the recording')
  await clickOn(page, 'Pin this moment to the word at the caret')
  const pinned = await lesson()
  const picture = pinned.steps.find(({ id }) => id === step.id)!.picture
  if (picture.kind !== 'recording') throw new Error('not a recording any more')
  expect(picture.pins).toHaveLength(1)
  await clickOn(page, 'From the playhead…')
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  const cut = (await page.waitForFunction(
    () => [...document.querySelectorAll('button')].find((one) => one.textContent?.endsWith('to the playhead')) ?? null,
  )) as unknown as { asElement(): ElementHandle<HTMLElement> }
  await cut.asElement().click()
  const cutOut = (await lesson()).steps.find(({ id }) => id === step.id)!.picture
  if (cutOut.kind !== 'recording') throw new Error('not a recording any more')
  expect(cutOut.cuts).toHaveLength(1)
  expect(cutOut.cuts[0]!.to - cutOut.cuts[0]!.from).toBeGreaterThan(0.1)
  await undoTo(before)
})

test('a recording becomes a step a scene, and no word is lost', async () => {
  const before = await lesson()
  const step = before.steps.find(({ picture }) => picture.kind === 'recording')!
  await select(step.id)
  await clickOn(page, 'Make a step of each scene')
  await page.waitForFunction(() => !document.querySelector('.ant-btn-loading'))
  const after = await lesson()
  const parts = after.steps.filter(
    ({ picture }) =>
      picture.kind === 'recording' && step.picture.kind === 'recording' && picture.media === step.picture.media,
  )
  expect(parts.length).toBeGreaterThan(1)
  const spoken = (steps: Lesson['steps']) =>
    steps.flatMap(({ passages }) => passages).reduce((sum, { from, to }) => sum + to - from, 0)
  expect(spoken(after.steps)).toBeCloseTo(spoken(before.steps), 3)
  expect(parts.map(({ script }) => script).join(' ')).toBe(step.script)
  await undoTo(before)
})

test('a new version of the slides keeps the words of the pages that are still there', async () => {
  await goTo(page, session.application.url)
  await chooseFiles(page, 'first-files', rawFile('leaving-a-berth.pdf'), rawFile('reading.mp3'))
  await clickOn(page, 'Make the lesson')
  await waitForText(page, 'Leaving a berth')
  await page.waitForSelector('[role=row]')
  const before = await lesson()
  // The new version: the third page is gone, the last two have changed places.
  const pages = join(folder, 'page-%d.pdf')
  await output('pdfseparate', [rawFile('leaving-a-berth.pdf'), pages])
  const file = (number: number) => join(folder, `page-${number}.pdf`)
  const count = before.steps.length
  const order = [1, 2, ...Array.from({ length: count - 5 }, (_, i) => i + 4), count, count - 1].slice(0, count - 1)
  const now = join(folder, 'leaving-a-berth-2.pdf')
  await output('pdfunite', [...order.map(file), now])
  await chooseSegment(page, 'Shelf')
  const use = await page.waitForFunction(
    () =>
      [...document.querySelectorAll('li')]
        .find((one) => one.textContent?.includes('slides'))
        ?.querySelector('button') ?? null,
  )
  await (use.asElement() as ElementHandle<HTMLElement>).click()
  await clickOn(page, 'Replace by a new version…')
  const input = (await page.waitForSelector('.ant-modal input[type=file]')) as ElementHandle<HTMLInputElement>
  await input.uploadFile(now)
  await waitForText(page, 'keep their words and timing')
  await waitForText(page, 'no longer there')
  await clickOn(page, 'Replace the slides')
  await page.waitForFunction(() => !document.querySelector('.ant-modal-wrap:not([style*="none"])'))
  const after = await lesson()
  expect(after.steps.map(({ passages }) => passages)).toEqual(before.steps.map(({ passages }) => passages))
  after.steps.forEach(({ picture }, i) => {
    if (picture.kind === 'still') expect(order[picture.page - 1]).toBe(i + 1)
    else expect([picture.kind, i]).toEqual(['card', 2])
  })
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test("a recording's own sound is as fast as its picture, and no higher", async () => {
  const film = join(folder, 'winch.mp4')
  const sources = ['-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=30:duration=9']
  const tone = ['-f', 'lavfi', '-i', 'sine=frequency=440:duration=9:sample_rate=48000']
  await output('ffmpeg', ['-v', 'error', ...sources, ...tone, '-pix_fmt', 'yuv420p', '-shortest', film])
  await goTo(page, session.application.url)
  await chooseFiles(page, 'first-files', film)
  await clickOn(page, 'Make the lesson')
  await page.waitForSelector('[role=row]')
  await chooseOption(page, "The recording's own sound", 'as recorded')
  await chooseOption(page, 'Speed of the recording', '1.5 times')
  const { steps } = await lesson()
  expect(steps).toMatchObject([{ picture: { kind: 'recording', speed: 1.5, gain: 0 } }])
  const { sounds } = await session.mixed(folder, 'winch')
  const heard = sounds[0]!
  // Nine seconds of the tone in six, without a hole.
  for (let at = 0.1; at < 5.8; at += 0.1) {
    const part = heard.subarray(at * HOUSE_RATE, (at + 0.1) * HOUSE_RATE)
    expect(rms(part)).toBeGreaterThan(0.5 * rms(heard.subarray(0, 5 * HOUSE_RATE)))
  }
  expect(rms(heard.subarray(6.1 * HOUSE_RATE))).toBeLessThan(0.001)
  let crossings = 0
  for (let i = 1; i < 5 * HOUSE_RATE; i++) if (heard[i - 1]! < 0 && heard[i]! >= 0) crossings++
  expect(Math.abs(crossings / 5 / 440 - 1)).toBeLessThan(0.01)
})
