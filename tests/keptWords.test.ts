import { newStill } from '@/core/lesson/newParts'
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { readWav, writeWav } from '@/core/formats/wav'
import type { Lesson, Step } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { noise } from '@/core/testing/signals'
import { COMMON_FRAME } from '@/core/picture/frame'
import { HOUSE_RATE } from '@/core/units'
import {
  headless,
  madeFile,
  output,
  rawFile,
  scratch,
  startApplication,
  until,
  type Application,
} from './support/application'
import {
  chooseFiles,
  chooseOption,
  chooseSegment,
  clickAt,
  clickOn,
  fakeMicrophone,
  openBrowser,
  openPage,
  savedLesson,
  waitForSheet,
  waitForText,
  goTo,
  waitForRest,
  recordUntil,
} from './support/browser'
import { rms } from './support/sound'

/**
 * The usual way of working: a stand-in voice first, things hung on its words, then one's own voice, cleaned; a word
 * corrected, the slides replaced. What hung on words must still be at its words, in the file that is delivered.
 */

let application: Application
let browser: Browser
let page: Page
const folder = scratch()
const at = (name: string) => join(folder, name)

/** A long pause stands before each word on which something hangs, so that the voice itself shows where it is said. */
const SCRIPT = 'Wait for the gap. [pause 1.5] Finally give her a little power. [pause 1.5] Look astern again.'
const [FINALLY, LOOK] = [4, 10]

beforeAll(async () => {
  // With it come the demo's files.
  application = await startApplication()
  await makeFiles()
  browser = await openBrowser(fakeMicrophone(at('microphone.wav')))
  page = (await openPage(browser, application.url)).page
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

/** Two slides, a film whose every picture is another one, their words, and a microphone that says the last ones slower. */
async function makeFiles(): Promise<void> {
  await output('pdfseparate', ['-l', '3', rawFile('leaving-a-berth.pdf'), at('page-%d.pdf')])
  await output('pdfunite', [at('page-1.pdf'), at('page-2.pdf'), at('1-slides.pdf')])
  await output('pdfunite', [at('page-3.pdf'), at('page-2.pdf'), at('page-1.pdf'), at('new-slides.pdf')])
  const film = ['-f', 'lavfi', '-i', 'testsrc=size=640x360:rate=30:duration=14', '-pix_fmt', 'yuv420p']
  await output('ffmpeg', ['-v', 'error', ...film, at('2-film.mp4')])
  await writeFile(at('3-script.txt'), `Take off the springs.\n\nThen the bow line.\n\n${SCRIPT}`)
  await writeFile(at('spoken.txt'), SCRIPT)
  await headless('say', at('spoken.txt'), '--rate', '105', '--out', at('said.wav'))
  const said = readWav(await readFile(at('said.wav'))).channels[0]!
  // The device starts before the page is ready. A breath of noise, as in any room.
  const heard = noise(3 * HOUSE_RATE + said.length, 5).map((value) => value * 0.0004)
  said.forEach((value, i) => (heard[3 * HOUSE_RATE + i]! += value * 0.35))
  await writeFile(at('microphone-24.wav'), writeWav([heard, heard], HOUSE_RATE))
  await output('ffmpeg', ['-v', 'error', '-i', at('microphone-24.wav'), '-c:a', 'pcm_s16le', at('microphone.wav')])
}

const lesson = async (): Promise<Lesson> => (await savedLesson(page)).lesson
/** The step with the film: the last one. */
const filmStepOf = ({ steps }: Lesson): Step => steps.at(-1)!
const filmStep = async (): Promise<Step> => filmStepOf(await lesson())
async function view(name: '' | '/booth'): Promise<void> {
  await savedLesson(page)
  await goTo(page, page.url().replace(/(lessons\/[^/]+).*/, `$1${name}`))
}

async function openSheet(): Promise<void> {
  await view('')
  await waitForSheet(page)
  await page.waitForFunction(() => !document.body.innerText.includes('Finding the words in'))
}

async function caretBefore(word: number): Promise<void> {
  const { id } = await filmStep()
  await clickAt(page, `[data-step="${id}"] [data-word="${word}"]`)
}

async function openBooth(): Promise<void> {
  await view('/booth')
  await clickAt(page, 'nav[aria-label=Steps] button:nth-child(3)')
}

test('a stand-in reads the words, and an effect, a pin and a further picture are hung on them', async () => {
  const music = rawFile('easy-water.mp3')
  await chooseFiles(page, 'first-files', at('1-slides.pdf'), at('2-film.mp4'), at('3-script.txt'), music)
  await clickOn(page, 'Make the lesson')
  await page.waitForSelector('[role=row]')
  expect(await filmStep()).toMatchObject({ script: SCRIPT, picture: { kind: 'recording' } })
  // Where there is a script and no narration, a stand-in reads it from the beginning.
  await openBooth()
  await page.waitForSelector('nav[aria-label=Steps] button:nth-child(3) [data-voice="stand-in"]')
  await openSheet()

  await caretBefore(FINALLY)
  await chooseSegment(page, 'Selected')
  await clickOn(page, 'Pins, cuts and scenes of the recording')
  await clickOn(page, 'Pin this moment to the word at the caret')
  await chooseSegment(page, 'Sounds')
  await page.locator('[aria-label="Look for a sound"]').fill('two bells')
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="Library of sounds"] li').length === 1)
  await clickAt(page, '[aria-label="Library of sounds"] li button:last-child')
  await waitForText(page, '◆ Two bells')
  await caretBefore(LOOK)
  await chooseSegment(page, 'Selected')
  await clickOn(page, 'Further pictures')
  await chooseOption(page, 'Another picture at the caret', (await lesson()).steps[0]!.title)

  const made = await lesson()
  expect(made.marks).toHaveLength(3)
  expect(layoutLesson(made).loose).toEqual([])
})

test('recorded over, cleaned, corrected, with new slides: in the delivered file all is at its words', async () => {
  const before = await lesson()
  await openBooth()
  await clickOn(page, 'Open the microphone')
  await page.waitForSelector('[aria-label="Record (R)"]:not([disabled])')
  await page.keyboard.press('r')
  await page.waitForSelector('[aria-label="Stop (R)"]')
  const { channels } = readWav(await readFile(at('said.wav')))
  await recordUntil(page, 3 + channels[0]!.length / HOUSE_RATE)
  await page.keyboard.press('r')
  await waitForText(page, 'Take 2')
  await clickOn(page, 'Voice and clean-up…')
  await waitForRest(page)
  await clickOn(page, 'Usual clean-up')
  await page.waitForFunction(() => document.querySelector('[data-testid="cleaning"]')?.textContent === 'cleaned')
  await openSheet()
  await caretBefore(0)
  await chooseSegment(page, 'Selected')
  await page.$eval('#step-script', (area) => {
    const field = area as HTMLTextAreaElement
    field.focus()
    field.setSelectionRange(0, 'Wait'.length)
  })
  await page.keyboard.type('Stay there')
  await replaceSlides()

  // Where the words of the own voice are said has been found by now, and the marks are there.
  await until(async () => (await lesson()).marks.every(({ guessed }) => guessed === null))
  const after = await lesson()
  expect(filmStepOf(after).script).toBe(SCRIPT.replace('Wait', 'Stay there'))
  expect(filmStepOf(after).passages[0]!.media).not.toBe(filmStepOf(before).passages[0]!.media)
  expect(layoutLesson(after).loose).toEqual([])
  expect(filmStepOf(after).more[0]!.picture).toMatchObject(newStill(mediaOfSlides(after), 3))
  await measureDelivered(after)
})

const mediaOfSlides = ({ shelf }: Lesson) => shelf.find(({ kind }) => kind === 'deck')!.media

async function replaceSlides(): Promise<void> {
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
  await input.uploadFile(at('new-slides.pdf'))
  await waitForText(page, 'keep their words and timing')
  await clickOn(page, 'Replace the slides')
  await page.waitForFunction(() => !document.querySelector('.ant-modal-wrap:not([style*="none"])'))
}

/** The words by the voice that is heard, the effect by its sound, the pictures by the frames of the video. */
async function measureDelivered(of: Lesson): Promise<void> {
  const { url } = application
  const id = new URL(page.url()).pathname.split('/')[2]!
  await writeFile(at('copy.zip'), Buffer.from(await (await fetch(`${url}/api/lessons/${id}/archive`)).arrayBuffer()))
  await headless('mix', at('copy.zip'), '--out', at('mix.wav'), '--stems', at('stems'))
  await writeFile(at('lesson.mp4'), await madeFile(url, id, 'video'))
  const stem = async (name: string) => readWav(await readFile(at(`stems/${name}.wav`))).channels[0]!
  const step = layoutLesson(of).steps.at(-1)!
  const [finallySaid, lookSaid] = onsetsAfterPauses(await stem('voice'), step.start)
  const bells = (await stem('sounds')).findIndex((value) => Math.abs(value) > 0.001) / HOUSE_RATE
  expect(Math.abs(bells - finallySaid!)).toBeLessThan(0.12)

  // The film changes a little from frame to frame; where a slide takes its place, it changes most.
  const frames = await framesOf(at('lesson.mp4'))
  const first = Math.ceil(step.start * COMMON_FRAME.rate) + 1
  const own = frames.slice(first, Math.floor(step.end * COMMON_FRAME.rate) - 1)
  const changes = own.slice(1).map((frame, i) => difference(frame, own[i]!))
  const changed = (first + 1 + changes.indexOf(Math.max(...changes))) / COMMON_FRAME.rate
  expect(Math.abs(changed - lookSaid!)).toBeLessThan(0.12)

  const { picture } = filmStepOf(of)
  const pin = picture.kind === 'recording' ? picture.pins[0]! : null
  const shown = frames[Math.round(finallySaid! * COMMON_FRAME.rate)]!
  const likely = (await framesOf(at('2-film.mp4'))).map((frame) => difference(frame, shown))
  expect(Math.abs(likely.indexOf(Math.min(...likely)) / COMMON_FRAME.rate - pin!.at)).toBeLessThan(0.35)
}

/** When the voice sets in after each silence of more than a second, from a moment of the lesson on. */
function onsetsAfterPauses(voice: Float32Array, from: number): number[] {
  const hop = HOUSE_RATE / 100
  const onsets: number[] = []
  let silent = 0
  let hasSpoken = false
  for (let h = Math.round(from * 100); (h + 1) * hop < voice.length; h++) {
    const isLoud = rms(voice.subarray(h * hop, (h + 1) * hop)) > 0.01
    if (isLoud && hasSpoken && silent > 100) onsets.push(h / 100)
    silent = isLoud ? 0 : silent + 1
    hasSpoken ||= isLoud
  }
  return onsets
}

const [WIDTH, HEIGHT] = [96, 54]

async function framesOf(file: string): Promise<Uint8Array[]> {
  const raw = at('frames.raw')
  const small = ['-vf', `scale=${WIDTH}:${HEIGHT},format=gray`, '-f', 'rawvideo', raw]
  await output('ffmpeg', ['-v', 'error', '-y', '-i', file, '-map', '0:v', ...small])
  const bytes = await readFile(raw)
  const size = WIDTH * HEIGHT
  return Array.from({ length: Math.floor(bytes.length / size) }, (_, i) => bytes.subarray(i * size, (i + 1) * size))
}

const difference = (a: Uint8Array, b: Uint8Array): number =>
  a.reduce((sum, value, i) => sum + Math.abs(value - b[i]!), 0) / a.length
