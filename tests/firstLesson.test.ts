import { readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { readWav } from '@/core/formats/wav'
import { HOUSE_RATE } from '@/core/units'
import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { stretchLoudness } from '@/core/measure/loudness'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { headless, output, rawFile, scratch, startApplication, type Application, until } from './support/application'
import {
  capturedSound,
  captureSound,
  chooseFiles,
  chooseOption,
  chooseSegment,
  clickAt,
  clickOn,
  openBrowser,
  openPage,
  savedLesson,
  waitForSheet,
  waitForText,
  waitForCaptured,
} from './support/browser'

/** The whole way: raw files dropped, a first lesson, corrected on the sheet, played, changed while playing, delivered. */

let application: Application
let browser: Browser
let page: Page
let faults: string[]
const folder = scratch()

beforeAll(async () => {
  application = await startApplication()
  browser = await openBrowser()
  ;({ page, faults } = await openPage(browser, application.url))
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})
afterEach(() => expect(faults).toEqual([]))

const spoken = ({ steps }: Lesson) => steps.map(({ passages }) => passages.map(({ from, to }) => [from, to]))

test('slides, a reading and a song dropped together become a lesson with each in its place', async () => {
  let tries = 0
  page.on('requestfailed', () => tries++)
  await page.setOfflineMode(true)
  await chooseFiles(
    page,
    'first-files',
    rawFile('reading.mp3'),
    rawFile('easy-water.mp3'),
    rawFile('leaving-a-berth.pdf'),
  )
  await page.waitForSelector('[data-file]')
  // More than one try: of the sender's own script first, which is not there yet.
  await until(async () => tries > 2)
  await page.setOfflineMode(false)
  // The server may be on this very machine: it answers where there is no network.
  await page.evaluate(() => dispatchEvent(new Event('offline')))
  await clickOn(page, 'Make the lesson')
  await waitForSheet(page)
  const { lesson } = await savedLesson(page)
  expect(lesson.title).toBe('Leaving a berth')
  expect(lesson.steps.map(({ title }) => title).slice(0, 3)).toEqual([
    'Leaving a berth',
    'Wind or tide: which is stronger?',
    'Ready before the engine',
  ])
  expect(lesson.bedCues).toHaveLength(1)
  expect(lesson.shelf.map(({ title, kind }) => `${kind} ${title}`).sort()).toEqual([
    'deck Leaving a berth',
    'sound Easy water',
    'sound Reading',
  ])
  // The reading has pauses of 1.4 s between slides and much shorter ones within: each slide must begin after a long one.
  const speech = (await headless('speech', rawFile('reading.mp3'))) as { segments: { start: number; end: number }[] }
  const afterLongPause = speech.segments
    .filter(({ start }, i) => start - (speech.segments[i - 1]?.end ?? 0) > 1)
    .map(({ start }) => start)
  expect(afterLongPause).toHaveLength(5)
  lesson.steps
    .slice(1)
    .forEach(({ passages }, i) => expect(Math.abs(passages[0]!.from - afterLongPause[i]!)).toBeLessThan(0.3))
})

test('Enter starts the next step at the caret, Backspace gives that back exactly, and joins; so does undo', async () => {
  const before = (await savedLesson(page)).lesson
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  const broken = (await savedLesson(page)).lesson
  expect(broken.steps).toHaveLength(6)
  const [first, second] = spoken(broken)
  expect(first![0]![1]!).toBeLessThan(spoken(before)[0]![0]![1]!)
  expect(second![0]![0]).toBe(first![0]![1])
  expect(second![0]![1]).toBe(spoken(before)[1]![0]![1])
  // The caret stands at the start of the second step now.
  await page.keyboard.press('Backspace')
  expect((await savedLesson(page)).lesson).toEqual(before)
  await clickAt(page, `[data-step="${before.steps[1]!.id}"] [data-word="0"]`)
  await page.keyboard.press('Backspace')
  const joined = (await savedLesson(page)).lesson
  expect(spoken(joined).slice(0, 2)).toEqual([[[spoken(before)[0]![0]![0], spoken(before)[1]![0]![1]]], []])
  await page.keyboard.down('Control')
  await page.keyboard.press('z')
  await page.keyboard.up('Control')
  expect((await savedLesson(page)).lesson).toEqual(before)
})

test('a length typed in place moves everything after it; rows move with the keys and come back', async () => {
  const before = (await savedLesson(page)).lesson
  await clickAt(page, '[data-step] [data-length] button')
  await chooseOption(page, 'Length rule', 'Fixed length', '.ant-popover')
  await page.waitForFunction(() => document.querySelector('.ant-popover label[for]')?.textContent === 'Stays for')
  await page.$eval('.ant-popover input[role=spinbutton]', (field) => (field as HTMLInputElement).select())
  await page.keyboard.type('20')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  const longer = (await savedLesson(page)).lesson
  expect(longer.steps[0]!.length).toEqual({ kind: 'fixed', length: 20 })
  const shift = 20 - layoutLesson(before).steps[0]!.end
  expect(layoutLesson(longer).length).toBeCloseTo(layoutLesson(before).length + shift, 6)
  for (let i = 0; i < 2; i++) await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)

  await clickAt(page, '[data-step] [title^="Click to select"]')
  await page.keyboard.down('Alt')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.up('Alt')
  const moved = (await savedLesson(page)).lesson
  expect(moved.steps.map(({ id }) => id)).toEqual([1, 0, 2, 3, 4, 5].map((i) => before.steps[i]!.id))
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
})

test('rows are dragged into another order, several together', async () => {
  const before = (await savedLesson(page)).lesson
  await page.keyboard.press('Home')
  for (let i = 0; i < 3; i++) await clickOn(page, 'Smaller scale')
  const margin = async (index: number) => {
    const handle = await page.waitForSelector(`[data-step="${before.steps[index]!.id}"] [title^="Click to select"]`)
    const box = (await handle!.boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + 30 }
  }
  const drag = async (from: number, to: number) => {
    const [start, end] = [await margin(from), await margin(to)]
    await page.mouse.move(start.x, start.y)
    await page.mouse.down()
    await page.mouse.move(start.x, start.y + 12, { steps: 3 })
    await page.mouse.move(end.x, end.y, { steps: 8 })
    // As a hand does: let go when the row under the pointer shows where the steps will go.
    await page.waitForFunction(
      (id) => document.querySelector<HTMLElement>('[role=row][data-over]')?.dataset.step === id,
      {},
      before.steps[to]!.id,
    )
    await page.mouse.up()
  }
  const order = async () =>
    (await savedLesson(page)).lesson.steps.map(({ id }) => before.steps.findIndex((step) => step.id === id))
  await drag(2, 0)
  expect(await order()).toEqual([2, 0, 1, 3, 4, 5])
  await clickOn(page, 'Undo')
  // The rows must be back in their places before the pointer is aimed at them.
  await page.waitForFunction(
    (ids) =>
      [...document.querySelectorAll<HTMLElement>('[role=row]')].map((row) => row.dataset.step).join() === ids.join(),
    {},
    before.steps.map(({ id }) => id).slice(0, await page.$$eval('[role=row]', (rows) => rows.length)),
  )
  const first = await margin(0)
  await page.mouse.click(first.x, first.y)
  await page.keyboard.down('Shift')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.up('Shift')
  await drag(0, 2)
  expect(await order()).toEqual([2, 0, 1, 3, 4, 5])
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
  for (let i = 0; i < 3; i++) await clickOn(page, 'Larger scale')
})

test('what is played is, sample by sample, what is delivered', async () => {
  const copy = join(folder, 'copy.zip')
  await download(`${lessonPath()}/archive`, copy)
  await headless('mix', copy, '--out', join(folder, 'mix.wav'), '--stems', join(folder, 'stems'))
  const delivered = readWav(await readFile(join(folder, 'mix.wav'))).channels[0]!

  await page.keyboard.press('Home')
  await clickOn(page, 'Play')
  await captureSound(page)
  await waitForCaptured(page, 4)
  await clickOn(page, 'Pause')
  const [played] = await capturedSound(page)
  const loud = played!.findIndex((_, i) => i > 48000 && Math.abs(played![i]!) > 0.02)
  const piece = played!.slice(loud, loud + 24000)
  const offset = placeOf(piece, delivered)
  let largest = 0
  for (let i = 0; i < piece.length; i++) largest = Math.max(largest, Math.abs(piece[i]! - delivered[offset + i]!))
  // The file has 24 bits: half a step of rounding, and nothing else.
  expect(largest).toBeLessThan(2 ** -22)
})

test('a clearance changed while playing is heard without stopping', async () => {
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await chooseSegment(page, 'Music')
  await chooseOption(page, 'What is heard', 'Music only')
  await clickOn(page, 'Play')
  await captureSound(page)
  await waitForCaptured(page, 2.5)
  const changedAt = (await capturedSound(page))[0]!.length
  const handle = await page.waitForSelector('[role=slider][aria-label="Clearance under the voice"]')
  await handle!.focus()
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight')
  // The meter names the new clearance once the mix has been planned with it; from then on it is heard.
  await page.waitForFunction(() => document.querySelector('[data-part=verdict]')?.textContent?.includes('26 ±'))
  const plannedAt = (await capturedSound(page))[0]!.length
  await waitForCaptured(page, plannedAt / HOUSE_RATE + 3.5)
  const sound = await capturedSound(page)
  await clickOn(page, 'Pause')
  const level = levelOf(sound)
  // The saved copy was mixed with the clearance before: its bed shows what the same music would have been.
  const bed = readWav(await readFile(join(folder, 'stems', 'bed.wav'))).channels
  const place = placeOf(sound[0]!.slice(changedAt - 72000, changedAt - 48000), bed[0]!) - (changedAt - 72000)
  const asBefore = levelOf(bed.map((channel) => channel.slice(place, place + sound[0]!.length)))
  expect(level(changedAt - 72000, changedAt)).toBeCloseTo(asBefore(changedAt - 72000, changedAt), 1)
  const [from, to] = [plannedAt + 48000, plannedAt + 120000]
  // Ten LU more clearance; without the music, the whole lesson's own gain may change a little.
  expect(asBefore(from, to) - level(from, to)).toBeGreaterThan(9)
  expect(asBefore(from, to) - level(from, to)).toBeLessThan(11)
  // It never stopped: no stretch of silence within.
  for (let at = changedAt - 48000; at < to; at += 4800) expect(level(at, at + 4800)).toBeGreaterThan(-75)
  const { lesson } = await savedLesson(page)
  expect(lesson.targets.clearance).toBe(26)
})

test('the finished video has the picture, the sound and the balance that were asked for', async () => {
  const { lesson } = await savedLesson(page)
  const length = layoutLesson(lesson).length
  await clickOn(page, 'Finish')
  await clickOn(page, 'Make the video')
  await page.waitForSelector('[data-export=done]')
  const href = await page.$eval('[data-export=done] a', (link) => (link as HTMLAnchorElement).pathname)
  const file = join(folder, 'lesson.mp4')
  await download(href, file)
  const probe = JSON.parse(
    await output('ffprobe', ['-v', 'error', '-count_packets', '-show_streams', '-of', 'json', file]),
  ) as { streams: Record<string, string>[] }
  const [video, sound] = ['video', 'audio'].map((type) => probe.streams.find(({ codec_type }) => codec_type === type)!)
  expect([video!.codec_name, video!.width, video!.height, video!.avg_frame_rate]).toEqual(['h264', 1920, 1080, '30/1'])
  expect(Number(video!.nb_read_packets)).toBe(Math.ceil(length * 30 - 1e-6))
  expect(Math.abs(Number(sound!.duration) - Number(video!.duration))).toBeLessThan(0.05)
  const summary = (
    await output('ffmpeg', ['-hide_banner', '-nostats', '-i', file, '-af', 'ebur128=peak=true', '-f', 'null', '-'])
  ).split('Summary:')[1]!
  expect(Number(/I:\s+(-?[\d.]+) LUFS/.exec(summary)![1])).toBeCloseTo(-16, 0)
  expect(Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(summary)![1])).toBeLessThanOrEqual(-1)
  await waitForText(page, 'Music where it should be')
  // It is watched where it is listed, and taking it out of the list can be undone.
  await page.waitForFunction(() => document.querySelector<HTMLVideoElement>('[data-export] video')!.readyState >= 1)
  const shown = await page.$eval('[data-export] video', (one) => (one as HTMLVideoElement).duration)
  expect(shown).toBeCloseTo(Number(video!.duration), 1)
  await clickOn(page, 'Remove')
  await page.waitForFunction(() => !document.querySelector('[data-export]'))
  await clickOn(page, 'Bring it back')
  await page.waitForSelector('[data-export=done] video')

  // The picture at the middle of each step is that step's slide: compared with the slide itself, small and grey.
  const { steps } = layoutLesson(lesson)
  for (const { step, start, end } of steps.slice(0, 3)) {
    const picture = step.picture as { media: string; page: number }
    const slide = join(folder, `${step.id}.png`)
    await download(`/api/media/${picture.media}/page-${picture.page}.png`, slide)
    const difference = await output('ffmpeg', [
      '-v',
      'info',
      '-hide_banner',
      '-ss',
      String((start + end) / 2),
      '-i',
      file,
      '-i',
      slide,
      '-frames:v',
      '1',
      '-lavfi',
      '[0:v]format=gray[a];[1:v]format=gray[b];[a][b]psnr',
      '-f',
      'null',
      '-',
    ])
    const psnr = /average:(\S+)/.exec(difference)![1]!
    expect(psnr === 'inf' ? 99 : Number(psnr)).toBeGreaterThan(38)
  }
})

test('the stems of the saved copy show the clearance, measured by the independent tool', async () => {
  const voice = await momentary(join(folder, 'stems', 'voice.wav'))
  const bed = await momentary(join(folder, 'stems', 'bed.wav'))
  const spokenReadings = voice.map((level, i) => ({ level, under: level - bed[i]! })).filter(({ level }) => level > -24)
  const sorted = spokenReadings.map(({ under }) => under).sort((a, b) => a - b)
  expect(sorted.length).toBeGreaterThan(400)
  // Over 400 ms a voice comes out a little louder than over the 3 s by which the clearance of 16 LU is held.
  expect(sorted[sorted.length >> 1]!).toBeGreaterThan(14)
  expect(sorted[sorted.length >> 1]!).toBeLessThan(19)
})

test('the headless check finds nothing worse than the missing licence', async () => {
  const { findings } = (await headless('check', join(folder, 'copy.zip'))) as {
    findings: { severity: string; code: string }[]
  }
  expect(findings.filter(({ severity }) => severity !== 'hint')).toEqual([])
  expect(findings.map(({ code }) => code)).toContain('licence-unknown')
})

test('the headless render measures like the one made in the application', async () => {
  const out = join(folder, 'headless.mp4')
  const balance = (await headless('render', join(folder, 'copy.zip'), '--out', out)) as BalanceSheet & {
    steps: unknown[]
  }
  expect(balance.steps).toHaveLength(6)
  expect(balance.within!).toBeGreaterThanOrEqual(0.98)
  expect(balance.masked!).toBeLessThanOrEqual(0.005)
  expect((await stat(out)).size).toBeGreaterThan(1e6)
})

const lessonPath = () => `/api/lessons/${new URL(page.url()).pathname.split('/')[2]}`

function levelOf(sound: Float32Array[]): (from: number, to: number) => number {
  const meter = createEnergyMeter(48000, 2)
  meter.push(sound)
  const track = meter.track()
  return (from, to) => stretchLoudness(track, from / 48000, to / 48000)
}

async function download(path: string, file: string): Promise<void> {
  const { writeFile } = await import('node:fs/promises')
  const response = await fetch(application.url + path)
  expect(response.status).toBe(200)
  await writeFile(file, Buffer.from(await response.arrayBuffer()))
}

/** Where `piece` lies in `whole`: exact search for its first samples, to the precision of the file. */
function placeOf(piece: Float32Array, whole: Float32Array): number {
  for (let at = 0; at < whole.length - piece.length; at++) {
    let k = 0
    while (k < 64 && Math.abs(whole[at + k]! - piece[k]!) < 2 ** -22) k++
    if (k === 64) return at
  }
  throw new Error('what was played is nowhere in what is delivered')
}

async function momentary(file: string): Promise<number[]> {
  const log = await output('ffmpeg', ['-hide_banner', '-nostats', '-i', file, '-af', 'ebur128', '-f', 'null', '-'])
  return [...log.matchAll(/M:\s*(-?[\d.]+|-inf)\s+S:/g)].map(([, value]) => (value === '-inf' ? -120 : Number(value)))
}
