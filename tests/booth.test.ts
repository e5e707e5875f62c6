import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { readWav, writeWav } from '@/core/formats/wav'
import type { Lesson, Step } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import { noise } from '@/core/testing/signals'
import { joined } from '@/media/speech/reading'
import { HOUSE_RATE } from '@/core/units'
import { madeFile, headless, output, scratch, startApplication, until, type Application } from './support/application'
import {
  capturedSound,
  chooseSegment,
  clickAt,
  clickOn,
  fakeMicrophone,
  newProfile,
  openBrowser,
  openPage,
  retype,
  savedLesson,
  storedLesson,
  storeLesson,
  waitForText,
  waitForRest,
  recordUntil,
} from './support/browser'
import { holdBack } from './support/requests'
import { follow, largestDifference, locate, rms, shareSaid } from './support/sound'

/** What an author does in the booth, with a microphone whose every sample is known. */

let application: Application
let spoken: Float32Array
let microphone: string
const folder = scratch()

const SCRIPT = [
  'Each day has four lines in the table.',
  'On each of them you find a time and a height.',
  'The larger heights are the high waters, and the smaller ones are the low.',
  'Write both of them down before you leave the harbour.',
  'Then look up how deep the entrance is at chart datum.',
  'Add the height of the tide, and you know what is under the keel.',
  'Never forget that the wind can take half a metre away.',
  'When in doubt, wait for another hour.',
].join(' ')
/** Words a minute, each time others, so that no place is like another. */
const RATES = [120, 112, 128, 116, 124]

beforeAll(async () => {
  application = await startApplication()
  const script = join(folder, 'script.txt')
  microphone = join(folder, 'microphone.wav')
  await writeFile(script, SCRIPT)
  // The device starts before the page is ready: silence first. And at its end it gives nothing but zeros: on a slow machine late enough.
  const parts = [new Float32Array(2 * HOUSE_RATE)]
  for (const rate of RATES) {
    const said = join(folder, `said-${rate}.wav`)
    await headless('say', script, '--rate', String(rate), '--out', said)
    parts.push(readWav(await readFile(said)).channels[0]!.map((value) => value * 0.35))
  }
  spoken = joined(parts)
  // A breath of noise, so that a stretch of zeros is a hole. And the fake device reads 16-bit files only.
  const breath = noise(spoken.length, 17)
  spoken = spoken.map((value, i) => value + breath[i]! * 0.0004)
  const file = join(folder, 'microphone-24.wav')
  await writeFile(file, writeWav([spoken, spoken], HOUSE_RATE))
  await output('ffmpeg', ['-v', 'error', '-i', file, '-c:a', 'pcm_s16le', microphone])
})
afterAll(() => application?.stop())

// A test that fails must not leave a browser that takes the machine from the others.
const opened: Browser[] = []
afterEach(async () => {
  for (const browser of opened.splice(0)) await browser.close().catch(() => undefined)
})

async function inBooth(args: string[], profile?: string): Promise<{ browser: Browser; page: Page; faults: string[] }> {
  const browser = await openBrowser(args, profile)
  if (args.length > 0) opened.push(browser)
  return { browser, ...(await openPage(browser, `${application.url}/lessons/tide-table/booth`)) }
}

/** Whoever meets another step sees it, and clicks again: what is recorded would go there. */
async function goToStep(page: Page, number: number): Promise<void> {
  const button = `nav[aria-label=Steps] button:nth-child(${number})`
  await until(async () => {
    await clickAt(page, button)
    await waitForRest(page)
    return (await page.$(`${button}[aria-current=step]`)) !== null
  })
}

/** All that was recorded is in the lesson, and saved. */
const waitUntilTaken = (page: Page) => page.waitForSelector('[data-arriving="0"]')

const waitUntilReady = (page: Page) => page.waitForSelector('[aria-label="Record (R)"]:not([disabled])')

async function startRecording(page: Page, mode = 'This step'): Promise<void> {
  await clickOn(page, 'Open the microphone')
  await waitUntilReady(page)
  await chooseSegment(page, mode)
  await watchKeys(page)
  await page.keyboard.press('r')
  await page.waitForSelector('[aria-label="Stop (R)"]')
}

/** From now on the page keeps when it showed that it records, and when Space and R were pressed. */
const watchKeys = (page: Page) =>
  page.evaluate(() => {
    const seen = { shown: 0, pressed: [] as number[], stopped: 0 }
    Object.assign(globalThis, { seen })
    document.addEventListener(
      'keydown',
      ({ key, timeStamp }) => {
        if (key === ' ') seen.pressed.push(timeStamp / 1000)
        if (key === 'r') seen.stopped = timeStamp / 1000
      },
      true,
    )
    new MutationObserver(() => {
      if (document.querySelector('[aria-label="Stop (R)"]')) seen.shown ||= performance.now() / 1000
    }).observe(document.body, { subtree: true, childList: true, attributes: true })
  })

/**
 * Seconds of a recording of this length at which Space was pressed, by the clock on the wall: at least and at most. A busy
 * page shows late that it records, and records on for a moment after R.
 */
const pressedWithin = (page: Page, length: number): Promise<[number, number][]> =>
  page.evaluate((recorded) => {
    const { seen } = globalThis as unknown as { seen: { shown: number; pressed: number[]; stopped: number } }
    return seen.pressed.map((time): [number, number] => [time - seen.shown, time - (seen.stopped - recorded)])
  }, length)

/** How far a place lies off a stretch. */
const offStretch = (place: number, [from, to]: [number, number]) => Math.max(from - place, place - to, 0)

const recordFor = (seconds: number) => new Promise((resolve) => setTimeout(resolve, seconds * 1000))

/** The clock beside the record button, in seconds; it never runs for a minute here. */
const shownTime = async (page: Page) =>
  Number((await page.$eval('[data-testid="recorded-time"]', (one) => one.textContent!)).split(':')[1])

async function soundOf(media: string): Promise<Float32Array> {
  const response = await fetch(`${application.url}/api/media/${media}/sound.f32`)
  return new Float32Array(await response.arrayBuffer())
}

const lessonNow = async (): Promise<Lesson> => (await storedLesson(application.url, 'tide-table')).lesson
const stepNow = async (number: number): Promise<Step> => (await lessonNow()).steps[number - 1]!

async function voiceOf(page: Page): Promise<Float32Array> {
  await savedLesson(page)
  return readWav(await madeFile(application.url, 'tide-table', 'voice-wav')).channels[0]!
}

test('what is recorded is what the microphone gave, sample by sample', async () => {
  const { page, faults } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 4)
  await startRecording(page)
  await waitForText(page, 'Good level.')
  await recordUntil(page, 3)
  // The wave is written while one speaks.
  const heights = await page.$eval('[data-testid=live-wave]', (one) => {
    const canvas = one as HTMLCanvasElement
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
    return Array.from({ length: 8 }, (_, part) => {
      const rows = new Set<number>()
      for (let at = 3; at < data.length; at += 4) {
        const [x, y] = [((at - 3) / 4) % canvas.width, Math.floor((at - 3) / 4 / canvas.width)]
        if (data[at]! > 0 && Math.floor(x / (canvas.width / 8)) === part) rows.add(y)
      }
      return rows.size
    })
  })
  expect(Math.max(...heights)).toBeGreaterThan(8)
  expect(heights.at(-1)).toBeLessThan(4)
  await recordUntil(page, 6)
  await page.keyboard.press('r')
  await waitForText(page, 'Take 2')
  const { lesson } = await savedLesson(page)
  const take = lesson.takes.at(-1)!
  expect(take).toMatchObject({
    step: lesson.steps[3]!.id,
    kind: 'recorded',
    name: 'Take 2',
    script: lesson.steps[3]!.script,
  })
  expect(lesson.steps[3]!.passages).toMatchObject([{ media: take.media, from: take.from, to: take.to }])
  const stored = await soundOf(take.media)
  expect(stored.length / HOUSE_RATE).toBeGreaterThan(5.5)
  const place = locate(stored.subarray(HOUSE_RATE, 3 * HOUSE_RATE), spoken)
  expect(place.alike).toBeGreaterThan(0.999)
  expect(place.gain).toBeCloseTo(1, 2)
  // No sample lost or doubled anywhere: the whole of it lies on the same line.
  const { moves, unlike, parts } = follow(stored, spoken)
  expect(parts).toBeGreaterThan(15)
  expect(unlike).toBe(0)
  for (const move of moves) expect(Math.abs(move)).toBeLessThanOrEqual(1)
  expect(faults).toEqual([])
})

test('a browser that gives no frames of a microphone records through its audio thread', async () => {
  const { browser, page } = await inBooth(fakeMicrophone(microphone))
  await page.evaluateOnNewDocument(keepWhatIsHandedOn)
  await page.reload({ waitUntil: 'load' })
  await goToStep(page, 4)
  await startRecording(page)
  await recordUntil(page, 4)
  expect(await page.$('[role=alert]')).toBeNull()
  await page.keyboard.press('r')
  await waitForText(page, 'Take 3')
  const { lesson } = await savedLesson(page)
  const stored = await soundOf(lesson.takes.at(-1)!.media)
  const handed = (await capturedSound(page))[0]!
  await browser.close()

  // On a busy machine the browser's audio thread puts blocks of 10 ms between; of what it did hand on nothing is missing.
  const begun = locate(stored.subarray(HOUSE_RATE, 2 * HOUSE_RATE), handed).at - HOUSE_RATE
  expect(stored.length).toBeGreaterThan(3.5 * HOUSE_RATE)
  expect(largestDifference(stored, handed.subarray(begun, begun + stored.length))).toBeLessThan(2 ** -15)
  const { pieces, share } = shareSaid(stored, spoken)
  expect(pieces).toBeGreaterThan(100)
  expect(share).toBeGreaterThan(0.75)
})

/** In the page: keeps every block that an audio thread gives to it, as the capture of what is played does. */
function keepWhatIsHandedOn(): void {
  Reflect.deleteProperty(globalThis, 'MediaStreamTrackProcessor')
  const kept: Float32Array[] = []
  globalThis.yarnStepCaptured = [kept]
  globalThis.AudioWorkletNode = class extends AudioWorkletNode {
    constructor(...given: ConstructorParameters<typeof AudioWorkletNode>) {
      super(...given)
      this.port.addEventListener('message', ({ data }: MessageEvent<{ samples: Float32Array }>) =>
        kept.push(data.samples.slice()),
      )
    }
  }
}

test('the script stands between what is said before and after it, as large as one wants it', async () => {
  const { browser, page } = await inBooth([])
  await goToStep(page, 4)
  const { steps } = await lessonNow()
  await waitForText(page, `Before: ${steps[2]!.title}`)
  await waitForText(page, `Next: ${steps[4]!.title}`)
  const size = () => page.$eval('[data-testid=script]', (one) => parseFloat(getComputedStyle(one).fontSize))
  const usual = await size()
  await clickOn(page, 'Larger script')
  expect(await size()).toBe(usual + 4)
  await page.reload()
  await waitForText(page, 'Next:')
  expect(await size()).toBe(usual + 4)
  await clickOn(page, 'Smaller script')
  await browser.close()
})

test('walking through: one reading over three steps, the key presses kept as breaks', async () => {
  const { page, faults } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 1)
  await startRecording(page, 'Walk through')
  await recordUntil(page, 4)
  await page.keyboard.press('Space')
  await recordUntil(page, 8)
  await page.keyboard.press('Space')
  await recordUntil(page, 12)
  await page.keyboard.press('r')
  await waitUntilTaken(page)
  const { lesson } = await savedLesson(page)
  const [first, second, third] = lesson.steps.map(({ passages }) => passages[0]!)
  expect(new Set([first!.media, second!.media, third!.media]).size).toBe(1)
  expect(second!.from).toBe(first!.to)
  expect(third!.from).toBe(second!.to)
  const pressed = await pressedWithin(page, (await soundOf(first!.media)).length / HOUSE_RATE)
  expect(pressed).toHaveLength(2)
  // What the browser has left out lies between the keys, and not in the file.
  const most = 1.2 + (await missingByTheBrowser(page))
  for (const [i, { to }] of [first!, second!].entries()) expect(offStretch(to, pressed[i]!)).toBeLessThan(most)
  expect(faults).toEqual([])
})

test('the room is measured first and stays with the take', async () => {
  const { page } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 6)
  await clickOn(page, 'Open the microphone')
  await clickOn(page, 'First measure the room')
  await page.waitForSelector('[data-testid="room"]')
  await page.keyboard.press('r')
  await page.waitForSelector('[aria-label="Stop (R)"]')
  await recordUntil(page, 3)
  await page.keyboard.press('r')
  await waitForText(page, 'Take 2')
  const { lesson } = await savedLesson(page)
  expect(lesson.takes.at(-1)!.room).toMatch(/^[0-9a-f]{64}$/)
})

test('from here on: each step gets a take of its own', async () => {
  const { page, faults } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 2)
  const takes = (await lessonNow()).takes.length
  await startRecording(page, 'From here on')
  await recordUntil(page, 5)
  await page.keyboard.press('Space')
  await recordUntil(page, 10)
  await page.keyboard.press('r')
  await waitUntilTaken(page)
  const { lesson } = await savedLesson(page)
  const made = lesson.takes.slice(takes)
  expect(made.map(({ step }) => step)).toEqual([lesson.steps[1]!.id, lesson.steps[2]!.id])
  expect(lesson.steps[2]!.passages).toMatchObject([{ media: made[0]!.media, from: made[1]!.from, to: made[1]!.to }])
  expect(made[1]!.media).toBe(made[0]!.media)
  expect(made.map(({ name }) => name)).toEqual([expect.stringMatching(/^Take \d$/), expect.stringMatching(/^Take \d$/)])
  // The break lies in the pause nearby.
  const [pressed] = await pressedWithin(page, (await soundOf(made[0]!.media)).length / HOUSE_RATE)
  const most = 1.6 + (await missingByTheBrowser(page))
  for (const edge of [made[0]!.to, made[1]!.from]) expect(offStretch(edge, pressed!)).toBeLessThan(most)
  expect(made[1]!.from).toBeGreaterThanOrEqual(made[0]!.to)
  expect(faults).toEqual([])
})

test('the next take is recorded while the one before is still being read in; who leaves the booth has finished', async () => {
  const { page, faults } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 3)
  const takesOfStep = async () => {
    const { takes, steps } = await lessonNow()
    return takes.filter(({ step }) => step === steps[2]!.id).length
  }
  const before = await takesOfStep()
  const release = await holdBack(page, '*/api/jobs?*')
  await startRecording(page)
  await recordUntil(page, 2)
  await page.keyboard.press('r')
  await waitUntilReady(page)
  expect(await page.$eval('[data-arriving]', (one) => one.getAttribute('data-arriving'))).toBe('1')
  await page.keyboard.press('r')
  await page.waitForSelector('[aria-label="Stop (R)"]')
  await recordUntil(page, 2)
  await release()
  await clickOn(page, 'Sheet')
  await waitForText(page, 'The recording has ended with leaving the booth')
  await until(async () => (await takesOfStep()) === before + 2)
  expect(faults).toEqual([])
})

test('a take that begins within a step keeps what was said before its place', async () => {
  const { page, faults } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 11)
  const before = await stepNow(11)
  const phrases = await page.waitForSelector('[data-testid="script"] [title="Record from here"]:nth-child(3)')
  await phrases!.click()
  await startRecording(page)
  await recordUntil(page, 5)
  await page.keyboard.press('r')
  await waitForText(page, 'Take 2')
  const { lesson } = await savedLesson(page)
  const now = lesson.steps[10]!
  const [kept, added] = now.passages
  expect(now.passages).toHaveLength(2)
  expect(kept).toMatchObject({ media: before.passages[0]!.media, from: before.passages[0]!.from })
  const length = kept!.to - kept!.from
  expect(length).toBeGreaterThan(1)
  expect(kept!.to).toBeLessThan(before.passages[0]!.to - 1)
  // Heard: the old voice up to the place, then the microphone.
  const voice = await voiceOf(page)
  const start = layoutLesson(lesson).steps[10]!.start + now.leadIn
  const heard = (from: number, to: number) =>
    voice.slice(Math.round((start + from) * HOUSE_RATE), Math.round((start + to) * HOUSE_RATE))
  const old = (await soundOf(kept!.media)).subarray(kept!.from * HOUSE_RATE, kept!.to * HOUSE_RATE)
  expect(locate(heard(0.2, length - 0.2), old).alike).toBeGreaterThan(0.99)
  const middle = length + (added!.to - added!.from) / 2
  expect(locate(heard(middle - 0.5, middle + 0.5), spoken).alike).toBeGreaterThan(0.99)
  expect(faults).toEqual([])
})

test('a browser that dies while recording loses at most a second: the next visit offers the rest', async () => {
  const profile = newProfile()
  const first = await inBooth(fakeMicrophone(microphone), profile)
  await goToStep(first.page, 5)
  await startRecording(first.page)
  await recordUntil(first.page, 6)
  const shown = await shownTime(first.page)
  first.browser.process()!.kill('SIGKILL')
  const { page, faults } = await inBooth(fakeMicrophone(microphone), profile)
  await page.waitForSelector('[data-testid="recovered"]')
  await goToStep(page, 5)
  await clickOn(page, 'Keep it as a take')
  await waitForText(page, 'Take 2')
  const { lesson } = await savedLesson(page)
  const take = lesson.takes.at(-1)!
  expect(take.step).toBe(lesson.steps[4]!.id)
  const stored = await soundOf(take.media)
  expect(stored.length / HOUSE_RATE).toBeGreaterThan(shown - 1)
  expect(locate(stored.subarray(HOUSE_RATE, 3 * HOUSE_RATE), spoken).alike).toBeGreaterThan(0.999)
  await page.waitForFunction(() => !document.querySelector('[data-testid="recovered"]'))
  expect(faults).toEqual([])
})

test('a server that dies while recording loses nothing: the pieces wait in the browser', async () => {
  const { page } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 7)
  await startRecording(page)
  await recordUntil(page, 2)
  await application.replaceServer(3)
  const shown = (await shownTime(page)) + 2
  await recordUntil(page, shown)
  await page.keyboard.press('r')
  await waitForText(page, 'Take 2')
  const { lesson } = await savedLesson(page)
  const stored = await soundOf(lesson.takes.at(-1)!.media)
  const missing = await missingByTheBrowser(page)
  expect(stored.length / HOUSE_RATE + missing).toBeGreaterThan(6)
  // What was shown as recorded is there; a busy page records on for a while after the key.
  expect(stored.length / HOUSE_RATE + missing).toBeGreaterThan(shown - 0.1)
  // A piece that had not come would be a hole of half a second, or move all that follows by as much.
  let [hole, widest] = [0, 0]
  for (const value of stored) {
    hole = value === 0 ? hole + 1 : 0
    widest = Math.max(widest, hole)
  }
  expect(widest).toBeLessThan(HOUSE_RATE / 100)
  const { moves, unlike, parts } = follow(stored, spoken)
  expect(parts).toBeGreaterThan(15)
  // Nothing is there twice; and but for what the browser left out, nothing is skipped.
  for (const move of moves) expect(move).toBeGreaterThanOrEqual(-1)
  if (missing > 0) return
  expect(unlike).toBe(0)
  for (const move of moves) expect(Math.abs(move)).toBeLessThanOrEqual(1)
})

/** Seconds that the browser did not give on a busy machine, as the page says. */
const missingByTheBrowser = async (page: Page): Promise<number> =>
  Number(/([\d.]+) s of the recording are missing/.exec(await page.$eval('body', (body) => body.innerText))?.[1] ?? 0)

const seePicture = (page: Page) =>
  page.waitForFunction(() => document.querySelector('aside[aria-label="Picture and takes"] video') !== null)

test('the screen becomes the picture of a step', async () => {
  const { page } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 11)
  await clickOn(page, 'Record the screen…')
  await waitForText(page, 'Stop recording the picture')
  await recordFor(4)
  await clickOn(page, 'Stop recording the picture')
  await seePicture(page)
  await savedLesson(page)
  const { picture } = await stepNow(11)
  expect(picture).toMatchObject({ kind: 'recording', from: 0 })
  if (picture.kind === 'recording') expect(picture.to).toBeGreaterThan(2.5)
})

test('the camera becomes the picture of a step, and the voice recorded with it stays with what was seen', async () => {
  const { page } = await inBooth(fakeMicrophone(microphone))
  await goToStep(page, 12)
  await clickOn(page, 'Open the microphone')
  await waitUntilReady(page)
  await clickOn(page, 'with voice')
  await clickOn(page, 'Record the camera…')
  const filming = await becomesSo(page, () => document.body.innerText.includes('Stop recording the picture'))
  const speaking = await becomesSo(page, () => document.querySelector('[aria-label="Stop (R)"]') !== null)
  // A busy page shows later what is so, and a busy test sees it later.
  const counted = { least: (speaking.after - filming.by) / 1000, most: (speaking.by - filming.after) / 1000 }
  await recordFor(6)
  await clickOn(page, 'Stop recording the picture')
  await seePicture(page)
  const { lesson } = await savedLesson(page)
  const { picture, passages, leadIn, length } = lesson.steps[11]!
  expect(lesson.takes.at(-1)).toMatchObject({ media: passages[0]!.media, kind: 'recorded' })
  // The picture ran while the voice was counted in; the step begins with the picture of its first word.
  if (picture.kind !== 'recording') throw new Error('There is no recording in the step.')
  const voiceAt = picture.from + leadIn - passages[0]!.from
  expect(counted.most).toBeGreaterThan(2)
  expect(voiceAt).toBeGreaterThan(counted.least - 0.8)
  expect(voiceAt).toBeLessThan(counted.most + 0.8)
  expect(length).toEqual({ kind: 'voice', atLeast: picture.to - picture.from })
})

/** Between which moments something came to be so. */
async function becomesSo(page: Page, isSo: () => boolean): Promise<{ after: number; by: number }> {
  let after = Date.now()
  for (;;) {
    const asked = Date.now()
    if (await page.evaluate(isSo)) return { after, by: Date.now() }
    after = asked
  }
}

describe('takes', () => {
  let browser: Browser
  let page: Page
  let faults: string[]
  beforeAll(async () => ({ browser, page, faults } = await inBooth([])))
  afterAll(() => browser?.close())
  afterEach(() => expect(faults).toEqual([]))

  const bringIn = async (file: string) =>
    (
      (await page.waitForSelector(
        'section[aria-label="Takes of this step"] input[type=file]',
      )) as ElementHandle<HTMLInputElement>
    ).uploadFile(file)

  async function readingBy(voice: string, step: Step, name: string): Promise<{ file: string; words: Word[] }> {
    const [script, file] = [join(folder, `${name}.txt`), join(folder, `${name}.wav`)]
    await writeFile(script, step.script)
    const { words } = (await headless('say', script, '--voice', voice, '--rate', '150', '--out', file)) as {
      words: Word[]
    }
    return { file, words }
  }
  interface Word {
    text: string
    start: number
    end: number
    sentence: number
  }

  test('phrase by phrase from two takes: the sound is that of the takes that were chosen', async () => {
    await goToStep(page, 10)
    const step = await stepNow(10)
    const one = await readingBy('espeak-ng:en-us', step, 'one')
    const two = await readingBy('espeak-ng:en-gb', step, 'two')
    await bringIn(one.file)
    await page.waitForSelector('[data-take="Take 2"]')
    const release = await holdBack(page, '*/analysis.bin')
    await bringIn(two.file)
    await page.waitForSelector('[data-take="Take 3"]')
    const before = await topOf('Choose parts…')
    await release()
    await page.waitForSelector('[data-take="Take 3"] canvas')
    // What one is about to click on stays where it is when the wave comes.
    expect(await topOf('Choose parts…')).toBe(before)
    await clickOn(page, 'Choose parts…')
    await page.waitForSelector('table')
    const rows = await page.$$('tbody tr')
    expect(rows.length).toBeGreaterThan(1)
    await choosePart(0, 'Take 2')
    for (let i = 1; i < rows.length; i++) await choosePart(i, 'Take 3')
    await clickOn(page, 'Use these parts')
    const { lesson } = await savedLesson(page)
    const now = lesson.steps[9]!
    expect(now.passages).toHaveLength(2)
    const voice = await voiceOf(page)
    const span = layoutLesson(lesson).steps[9]!
    const heard = voice.subarray(Math.round(span.start * HOUSE_RATE), Math.round(span.end * HOUSE_RATE))
    const files = await Promise.all([one, two].map(async ({ file }) => readWav(await readFile(file)).channels[0]!))
    const [a, b] = now.passages.map(({ from, to }) => to - from)
    // Not where a sentence has just ended.
    const spokenIn = (from: number, length: number) =>
      [1 / 4, 1 / 2, 3 / 4]
        .map((share) => from + share * length)
        .map((at) => heard.slice(Math.round((at - 0.3) * HOUSE_RATE), Math.round((at + 0.3) * HOUSE_RATE)))
        .reduce((loudest, part) => (rms(part) > rms(loudest) ? part : loudest))
    expect(locate(spokenIn(now.leadIn, a!), files[0]!).alike).toBeGreaterThan(0.99)
    expect(locate(spokenIn(now.leadIn + a!, b!), files[1]!).alike).toBeGreaterThan(0.99)

    function topOf(button: string) {
      return page.$$eval(
        'button',
        (all, wanted) => all.find((one) => one.textContent === wanted)!.getBoundingClientRect().top,
        button,
      )
    }
    async function choosePart(row: number, take: string) {
      const radio = await page.waitForSelector(`tbody tr:nth-child(${row + 1}) input[aria-label$="from ${take}"]`)
      await radio!.click()
    }
  })

  test('a take is removed and brought back, by restoring and by undoing', async () => {
    const before = (await savedLesson(page)).lesson.steps[9]!.passages
    await clickOn(page, 'More for Take 3')
    await clickOn(page, 'Remove')
    await page.waitForFunction(() => !document.querySelector('[data-take="Take 3"]'))
    expect((await savedLesson(page)).lesson.steps[9]!.passages).toHaveLength(1)
    await clickOn(page, 'bring back Take 3')
    await page.waitForSelector('[data-take="Take 3"]')
    await clickOn(page, 'Undo')
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson.steps[9]!.passages).toEqual(before)
  })

  test('a changed script shows, a synthesised voice reads it, and is known as a stand-in', async () => {
    const { lesson: outdated, revision } = await storedLesson(application.url, 'tide-table')
    outdated.steps[7]!.script = 'The rule of twelfths *needs* care. [pause 1] Try it on paper first.'
    await storeLesson(application.url, 'tide-table', revision, outdated)
    await page.reload({ waitUntil: 'load' })
    await goToStep(page, 8)
    await page.waitForSelector('nav[aria-label=Steps] button:nth-child(8) [data-voice="outdated"]')
    await clickOn(page, 'Read by a voice')
    await page.waitForSelector('nav[aria-label=Steps] button:nth-child(8) [data-voice="stand-in"]')
    const { lesson } = await savedLesson(page)
    const take = lesson.takes.at(-1)!
    expect(take).toMatchObject({ kind: 'read', step: lesson.steps[7]!.id })
    // The pause of a second between the sentences is in the sound.
    const speech = (await soundOf(take.media)).map(Math.abs)
    let [silent, longest] = [0, 0]
    for (const value of speech) {
      silent = value < 0.002 ? silent + 1 : 0
      longest = Math.max(longest, silent)
    }
    expect(longest / HOUSE_RATE).toBeGreaterThan(0.95)
  })

  test('a file worked on elsewhere takes its place sample by sample, and undoing brings the old one back', async () => {
    await goToStep(page, 8)
    const before = (await lessonNow()).steps[7]!.passages
    const media = before[0]!.media
    const response = await fetch(
      `${application.url}/api/media/${media}/take?from=0&to=${before[0]!.to}&format=flac&name=Reading`,
    )
    expect(response.headers.get('content-type')).toBe('audio/flac')
    const samples = await soundOf(media)
    const worked = join(folder, 'worked.wav')
    await writeFile(worked, writeWav([samples.map((value) => value * 0.5)], HOUSE_RATE))
    await clickOn(page, 'More for Reading')
    const input = await page.waitForSelector('.ant-dropdown input[type=file]')
    await (input as ElementHandle<HTMLInputElement>).uploadFile(worked)
    await until(async () => (await lessonNow()).steps[7]!.passages[0]!.media !== media)
    const { lesson } = await savedLesson(page)
    const [now] = lesson.steps[7]!.passages
    expect({ from: now!.from, to: now!.to }).toEqual({ from: before[0]!.from, to: before[0]!.to })
    expect(rms(await soundOf(now!.media)) / rms(samples)).toBeCloseTo(0.5, 3)
    await page.keyboard.press('Escape')
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson.steps[7]!.passages).toEqual(before)
  })

  /** The drawer has to have come to rest before anything in it can be clicked. */
  async function openSettings(): Promise<void> {
    await clickOn(page, 'Voice and clean-up…')
    await waitForRest(page)
  }

  test('clean-up is heard in the lesson, can be compared, and reset', async () => {
    await goToStep(page, 9)
    // A take with a second of the room alone, its noise 20 dB under the words.
    const { file } = await readingBy('espeak-ng:en-gb', await stepNow(9), 'quiet')
    const words = readWav(await readFile(file)).channels[0]!
    const lead = new Float32Array(HOUSE_RATE)
    const quiet = Float32Array.from([...lead, ...words])
    const hiss = noise(quiet.length, 3)
    const loudest = words.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
    const peak = rms(words.filter((value) => Math.abs(value) > loudest / 80)) * Math.sqrt(3) * 0.1
    const noisy = join(folder, 'noisy.wav')
    await writeFile(noisy, writeWav([quiet.map((value, i) => value + hiss[i]! * peak)], HOUSE_RATE))
    await bringIn(noisy)
    await page.waitForSelector('[data-take="Take 2"]')
    const before = await voiceOf(page)
    await openSettings()
    // What was measured in this take speaks for it, and what is clean is left alone.
    const told = (part: string) =>
      page.$eval(`[aria-label="${part}"]`, (one) => one.closest('label')!.parentElement!.textContent)
    await waitForText(page, 'Here:')
    expect(await told('Room noise')).toMatch(/Here: (1[5-9]|2\d) dB under your voice · advised/)
    expect(await told('Clipped peaks')).toMatch(/Here: none found$/)
    await clickOn(page, 'Usual clean-up')
    await page.waitForFunction(() => document.querySelector('[data-testid="cleaning"]')?.textContent === 'cleaned')
    const after = await voiceOf(page)
    expect(after.length).toBe(before.length)
    const { lesson } = await savedLesson(page)
    expect(lesson.cleanUp.noise.on).toBe(true)
    const { passages } = layoutLesson(lesson)
    const own = passages.find(({ step }) => step.id === lesson.steps[8]!.id)!
    const level = (voice: Float32Array, from: number, to: number) =>
      rms(voice.slice(Math.round(from * HOUSE_RATE), Math.round(to * HOUSE_RATE)))
    const room = [own.start + 0.3, own.start + 0.9] as const
    expect(level(before, ...room) / level(after, ...room)).toBeGreaterThan(10)
    expect(level(after, own.start, own.end) / level(before, own.start, own.end)).toBeGreaterThan(0.75)
    await clickOn(page, 'Reset')
    expect((await savedLesson(page)).lesson.cleanUp.noise.on).toBe(false)
    await page.keyboard.press('Escape')
  })

  test('long pauses are counted first, shortened at once, and come back at once', async () => {
    await page.reload({ waitUntil: 'load' })
    await goToStep(page, 9)
    await openSettings()
    await clickOn(page, 'Pauses')
    await retype(page, '[aria-label="Longest pause"]', '0.3')
    await retype(page, '[aria-label="What stays of it"]', '0.2')
    await page.keyboard.press('Tab')
    await page.waitForFunction(() =>
      /\d+ pauses/.test(document.querySelector('[data-testid="dead-air"]')?.textContent ?? ''),
    )
    const said = await page.$eval('[data-testid="dead-air"]', (one) => one.textContent!)
    const [, seconds] = /pauses, ([\d.]+) s/.exec(said)!
    const before = (await savedLesson(page)).lesson
    await clickOn(page, 'Shorten them')
    const after = (await savedLesson(page)).lesson
    const voiceTime = (lesson: Lesson) =>
      lesson.steps.flatMap(({ passages }) => passages).reduce((sum, { from, to }) => sum + to - from, 0)
    expect(voiceTime(before) - voiceTime(after)).toBeCloseTo(Number(seconds), 0)
    await clickOn(page, 'Undo')
    expect((await savedLesson(page)).lesson.steps).toEqual(before.steps)
  })
})
