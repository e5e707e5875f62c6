import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import sharp from 'sharp'
import type { Lesson } from '@/core/lesson/document'
import type { Layer } from '@/core/lesson/layers'
import { layoutLesson } from '@/core/lesson/layout'
import { runProgram } from '@/media/process'
import { headless, scratch, until } from './support/application'
import {
  chooseOption,
  chooseSegment,
  clickAt,
  clickOn,
  middleOf,
  penDrag,
  savedLesson,
  waitForSheet,
  waitForWords,
} from './support/browser'
import { sharedSession } from './support/session'

/** Words and pointers over a picture: put there, placed by mouse and by keys, and the same in the page and in the file. */

const session = sharedSession('/lessons/crossing-the-bar')
const folder = scratch()
let page: Page
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
  await waitForWords(page)
})
const lesson = async (): Promise<Lesson> => (await savedLesson(page)).lesson
const layers = async (step = 1): Promise<Layer[]> => (await lesson()).steps[step]!.layers

async function command(words: string): Promise<void> {
  await clickOn(page, 'What to do')
  await page.waitForSelector('[role=combobox][aria-label^="What do"]')
  await page.keyboard.type(words)
  await page.waitForSelector('[role=option][aria-selected=true]')
  await page.keyboard.press('Enter')
}
/** The frame of what is picked, on the easel. */
const box = () => page.waitForSelector('[data-testid=easel] [role=group]')

test('words are put over the picture from the word at the caret on, and typed', async () => {
  await clickAt(page, '[role=row][aria-label^="Step 2,"] [data-word="3"]')
  await command('put a label over')
  await page.waitForSelector('#layer-text')
  await page.focus('#layer-text')
  await page.keyboard.type('Five minutes')
  await until(async () => (await layers()).some((one) => one.kind === 'words' && one.text === 'Five minutes'))
  const [label] = await layers()
  const timeline = layoutLesson(await lesson())
  const { start } = timeline.layers.find(({ layer }) => layer.id === label!.id)!
  expect(start).toBeGreaterThan(timeline.steps[1]!.start + 0.3)
  await page.waitForFunction(
    () => document.querySelectorAll<HTMLImageElement>('[data-testid=easel] img[src^="/api/layers"]').length === 1,
  )
})

test('what is picked is moved and made larger by keys, and dragged with the mouse', async () => {
  const before = (await layers())[0]!.area
  await (await box())!.focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.down('Shift')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.up('Shift')
  await until(async () => Math.abs((await layers())[0]!.area.width - before.width - 0.01) < 1e-6)
  const moved = (await layers())[0]!.area
  expect([moved.x - before.x, moved.y - before.y]).toEqual([expect.closeTo(0.01), expect.closeTo(0.01)])

  const frame = (await (await page.$('[data-testid=easel]'))!.boundingBox())!
  const at = (await (await box())!.boundingBox())!
  const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x - 0.11 * frame.width, y + 0.17 * frame.height, { steps: 8 })
  await page.mouse.up()
  await until(async () => (await layers())[0]!.area.x < moved.x - 0.08)
  const { area } = (await layers())[0]!
  expect(area.x).toBeCloseTo(moved.x - 0.11, 1)
  expect(area.y).toBeCloseTo(moved.y + 0.17, 1)
  expect([area.width, area.height]).toEqual([moved.width, moved.height])
})

test('a pen moves what is picked, makes it larger by a corner, and hangs its tab on another word', async () => {
  const before = (await layers())[0]!
  const frame = (await (await page.$('[data-testid=easel]'))!.boundingBox())!
  await penDrag(page, middleOf(await (await box())!.boundingBox()), { x: 0.1 * frame.width, y: -0.1 * frame.height })
  await until(async () => (await layers())[0]!.area.x > before.area.x + 0.06)
  const moved = (await layers())[0]!.area
  expect([moved.x - before.area.x, moved.y - before.area.y]).toEqual([expect.closeTo(0.1, 1), expect.closeTo(-0.1, 1)])

  const corner = await page.waitForSelector('[data-testid=easel] [role=group] [data-corner="lower right"]')
  await penDrag(page, middleOf(await corner!.boundingBox()), { x: 0.08 * frame.width, y: 0.08 * frame.height })
  await until(async () => (await layers())[0]!.area.width > moved.width + 0.04)
  const larger = (await layers())[0]!.area
  expect([larger.x, larger.y]).toEqual([expect.closeTo(moved.x), expect.closeTo(moved.y)])

  const startOf = async () => layoutLesson(await lesson()).layers.find(({ layer }) => layer.id === before.id)!.start
  const start = await startOf()
  const from = middleOf(await (await page.$(`[data-thing="${before.id}"]`))!.boundingBox())
  const word = middleOf(await (await page.$('[role=row][aria-label^="Step 2,"] [data-word="7"]'))!.boundingBox())
  await penDrag(page, from, { x: word.x - from.x, y: word.y - from.y })
  await until(async () => (await startOf()) > start + 0.3)
  for (let i = 0; i < 3; i++) await clickOn(page, 'Undo')
  await until(async () => JSON.stringify((await layers())[0]) === JSON.stringify(before))
})

test('several things lie over one picture, each with its tab', async () => {
  for (const words of ['put a ring', 'arrow point', 'cover something']) {
    const count = (await layers()).length
    await command(words)
    await until(async () => (await layers()).length === count + 1)
  }
  expect((await layers()).map(({ kind }) => kind)).toEqual(['words', 'pointer', 'pointer', 'cover'])
  expect(await page.$$('[role=row][aria-label^="Step 2,"] [data-kind=layer]')).toHaveLength(4)
  // What was put in last is picked, and taken out again.
  await (await box())!.press('Delete')
  await until(async () => (await layers()).length === 3)
})

test('what lies over one picture is copied over another by keys, as often as one likes', async () => {
  const ring = await page.waitForSelector('[role=row][aria-label^="Step 2,"] [data-kind=layer]')
  await ring!.click()
  const picked = (await layers())[0]!
  await page.keyboard.down('Control')
  await page.keyboard.press('c')
  await page.keyboard.up('Control')
  await clickAt(page, '[role=row][aria-label^="Step 3,"] [data-margin]')
  for (const count of [1, 2]) {
    await page.keyboard.down('Control')
    await page.keyboard.press('v')
    await page.keyboard.up('Control')
    await until(async () => (await layers(2)).length === count)
  }
  const [copy] = await layers(2)
  expect({ ...copy, id: picked.id }).toEqual({ ...picked, from: null })
})

test('page and file show the same', async () => {
  // The playhead goes there as an author would send it: to the word said then, and nothing stays picked.
  await page.keyboard.press('Escape')
  const words = await page.$$('[role=row][aria-label^="Step 2,"] [data-word]')
  await words[9]!.click()
  await page.waitForFunction(
    () =>
      document.querySelectorAll('[data-testid=easel] svg').length === 2 &&
      !document.querySelector('[data-testid=easel] [role=group]'),
  )
  // Large, and with more of its pixels, so that it is the drawing that is compared and not the screen.
  await clickOn(page, 'Larger picture')
  await page.setViewport({ width: 1280, height: 800, deviceScaleFactor: 2 })
  // The buttons in its corners are the page's, not the picture's.
  await page.$$eval('[aria-label=Easel] > div:first-child > button', (all) =>
    all.forEach((one) => (one.style.visibility = 'hidden')),
  )
  expect(await differenceOfFile(160, 90)).toBeLessThan(2)
})

test('so they do in a video of another shape, with the picture on itself', async () => {
  await chooseSegment(page, 'Video')
  await clickAt(page, 'button[aria-label^="1 : 1"]')
  await chooseOption(page, 'How a picture of another shape stands in the frame', 'all of it, on itself, blurred')
  await until(async () => (await lesson()).framing.ground === 'blurred')
  await page.waitForSelector('[data-testid=easel] canvas')
  const { width, height } = (await (await page.$('[data-testid=easel]'))!.boundingBox())!
  expect(width / height).toBeCloseTo(1, 1)
  expect(await differenceOfFile(120, 120)).toBeLessThan(2)
})

/** How much the picture on the easel is unlike that of the finished file at the end of the second step: a mean of 255. */
async function differenceOfFile(width: number, height: number): Promise<number> {
  await page.evaluate(() => new Promise((done) => setTimeout(done, 500)))
  const seen = await small(await (await page.$('[data-testid=easel] > div'))!.screenshot(), width, height)
  const { start, end } = layoutLesson(await lesson()).steps[1]!
  const response = await fetch(`${session.application.url}/api/lessons/${session.lessonId()}/archive`)
  await writeFile(join(folder, 'over.zip'), Buffer.from(await response.arrayBuffer()))
  // Only that step, which is what the whole has there (tests/delivery.test.ts).
  await headless('render', join(folder, 'over.zip'), '--step', '2', '--out', join(folder, 'over.mp4'))
  const moment = String(end - start - 1)
  const args = ['-v', 'error', '-ss', moment, '-i', join(folder, 'over.mp4'), '-frames:v', '1', '-y']
  await runProgram('ffmpeg', [...args, join(folder, 'frame.png')], { limit: 60 })
  const filmed = await small(await readFile(join(folder, 'frame.png')), width, height)
  return seen.reduce((sum, value, i) => sum + Math.abs(value - filmed[i]!), 0) / seen.length
}

/** A picture much smaller, without its outermost pixels, where the easel has round corners. */
const small = (picture: Uint8Array, width: number, height: number): Promise<Buffer> =>
  sharp(picture)
    .resize(width, height, { fit: 'fill' })
    .extract({ left: 2, top: 2, width: width - 4, height: height - 4 })
    .removeAlpha()
    .raw()
    .toBuffer()

test('captions are shown over the picture where they are said, and hidden again', async () => {
  const captions = () =>
    page.$$eval('[data-testid=easel] img[src*="caption"]', (all) => all.map((one) => (one as HTMLImageElement).alt))
  await page.keyboard.press('Escape')
  await clickAt(page, '[role=row][aria-label^="Step 2,"] [data-word="3"]')
  await until(async () => (await captions()).length === 0)
  await page.keyboard.down('Shift')
  await page.keyboard.press('C')
  await page.keyboard.up('Shift')
  await until(async () => (await captions()).length > 0)
  const [shown] = await captions()
  expect(shown!.split('\n').length).toBeLessThanOrEqual(2)
  expect((await lesson()).steps[1]!.script).toContain(shown!.replaceAll('\n', ' '))
  await command('subtitles')
  await until(async () => (await captions()).length === 0)
})
