import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import { layoutLesson } from '@/core/lesson/layout'
import { noise } from '@/core/testing/signals'
import { HOUSE_RATE } from '@/core/units'
import { output, rawFile, scratch, startApplication, until, type Application } from './support/application'
import { fakeMicrophone, openBrowser, openPage, savedLesson, waitForSheet, waitForWords } from './support/browser'
import { keyboard, listener, pointer, type Hand } from './support/hands'

/**
 * What a new author does, from files to a video: by what is seen and pressed, by keys alone, and through the accessibility
 * tree. Each way gets the whole way.
 */

const SCRIPT = [
  'Bow line first. Then the spring.',
  'Look where the wind comes from. Then let go slowly.',
  'Bring the lines in before the engine goes ahead.',
]

let application: Application
let microphone: string
let files: string[]
const folder = scratch()

beforeAll(async () => {
  application = await startApplication()
  microphone = join(folder, 'microphone.wav')
  await writeFile(
    join(folder, 'longer.wav'),
    writeWav([noise(60 * HOUSE_RATE, 7).map((value) => value * 0.2)], HOUSE_RATE),
  )
  await output('ffmpeg', ['-v', 'error', '-i', join(folder, 'longer.wav'), '-c:a', 'pcm_s16le', microphone])
  files = [rawFile('easy-water.mp3'), join(folder, 'casting-off.txt')]
  await writeFile(files[1]!, SCRIPT.join('\n\n'))
  for (const [i, background] of ['#204060', '#406020', '#602040'].entries()) {
    files.push(join(folder, `page ${i + 1}.png`))
    await sharp({ create: { width: 640, height: 360, channels: 3, background } })
      .png()
      .toFile(files.at(-1)!)
  }
})
afterAll(() => application?.stop())

const opened: Browser[] = []
afterEach(() => Promise.all(opened.splice(0).map((browser) => browser.close())))

const HANDS: Record<string, (page: Page) => Hand | Promise<Hand>> = {
  'by what is seen': pointer,
  'by keys alone': keyboard,
  'by what is heard': listener,
}

test.each(Object.keys(HANDS))('from files to a video, %s', async (name) => {
  const browser = await openBrowser(fakeMicrophone(microphone))
  opened.push(browser)
  const { page, faults } = await openPage(browser, application.url)
  const hand = await HANDS[name]!(page)
  const lesson = async () => (await savedLesson(page)).lesson
  const scripts = async () => (await lesson()).steps.map(({ script }) => script)
  const order = async (sought: string, entry: string) => {
    await hand.press('What to do')
    await hand.write('What do you want to do?', sought)
    await hand.take(entry)
    await page.waitForFunction(() => !document.querySelector('#commands'))
  }

  await hand.bring('Drop slides', ...files)
  await hand.press('Make the lesson')
  await waitForSheet(page)
  const begun = await lesson()
  expect(await scripts()).toEqual(SCRIPT)
  expect(begun.bedCues).toHaveLength(1)

  // The next step begins at a word, then the words of both are joined; taken back, and the step moved.
  await waitForWords(page)
  await order('slowly', '“slowly” in step 2')
  await order('split', 'Start the next step at the caret')
  await until(async () => (await scripts())[2] === `slowly. ${SCRIPT[2]}`)
  await order('join', 'Join this step with the one before')
  await until(async () => (await scripts())[2] === '')
  for (let i = 0; i < 2; i++) await hand.press('Undo')
  await until(async () => (await scripts()).join() === SCRIPT.join())
  await order('up', 'Move the selected steps up')
  await until(async () => (await lesson()).steps[0]!.id === begun.steps[1]!.id)

  // A bell on a word, and softer music in its step.
  await order('engine', '“engine” in step 3')
  await order('sound', 'Put a sound at this word…')
  await hand.write('Look for a sound', 'bell')
  await hand.press('Hang on the caret: Ship')
  await until(async () => (await lesson()).sounds.length === 1)
  await order('softer', 'Make the music quieter in this step')
  await until(async () => (await lesson()).nudges.length > 0)

  await order('subtitles', 'Correct the captions of this step')
  await hand.write('Caption at', 'Lines in first.')
  await until(async () => (await lesson()).captionCorrections[0]?.text === 'Lines in first.')

  // Whoever goes past music or a sound on the way takes nothing of it along.
  expect((await lesson()).bedCues).toEqual(begun.bedCues)

  await hand.press('Booth')
  await hand.press('Open the microphone')
  await hand.press('Record (R)')
  await page.waitForFunction(
    () => Number(document.querySelector('[data-testid="recorded-time"]')?.textContent?.split(':')[1]) >= 2,
    { polling: 100 },
  )
  await hand.press('Stop (R)')
  await until(async () => (await lesson()).takes.some(({ kind }) => kind === 'recorded'))

  await hand.press('Finish')
  await hand.press('Make the video')
  const link = await page.waitForSelector('a[href$="/file"]')
  const video = join(folder, 'video.mp4')
  const address = await link!.evaluate((one) => (one as HTMLAnchorElement).href)
  await writeFile(video, Buffer.from(await (await fetch(address)).arrayBuffer()))
  const probed = await output('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'stream=codec_type,duration',
    '-of',
    'json',
    video,
  ])
  const { streams } = JSON.parse(probed) as { streams: { codec_type: string; duration: string }[] }
  const { length } = layoutLesson(await lesson())
  for (const { codec_type: kind, duration } of streams.filter(({ codec_type: kind }) => /audio|video/.test(kind)))
    expect({ kind, off: Math.abs(Number(duration) - length) < 0.1 }).toEqual({ kind, off: true })
  expect(faults).toEqual([])
})
