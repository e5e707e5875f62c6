import { mkdir, readdir, rm, symlink, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'
import sharp from 'sharp'
import { readWav } from '@/core/formats/wav'
import { bucketObjects } from '@/media/store/bucketObjects'
import { startBucket } from './support/bucket'
import {
  headless,
  madeFile,
  output,
  scratch,
  startApplication,
  TEST_DATA,
  type Application,
} from './support/application'
import { chooseFiles, clickOn, openBrowser, openPage, storedLesson, waitForSheet } from './support/browser'

/** The whole application with its files in a bucket: what one works with in a folder works the same. */

let application: Application
let browser: Browser
let bucket: Awaited<ReturnType<typeof startBucket>>
const folder = scratch()
const data = join(folder, 'data')

beforeAll(async () => {
  bucket = await startBucket(join(folder, 'server'))
  // The demo is not made once more.
  const demo = join(TEST_DATA, 'demo')
  await Promise.all([mkdir(demo, { recursive: true }), mkdir(data)])
  await symlink(demo, join(data, 'demo'))
  application = await startApplication({
    YARN_STEP_DATA: data,
    YARN_STEP_BUCKET: bucket.settings.endpoint,
    YARN_STEP_BUCKET_REGION: bucket.settings.region,
    YARN_STEP_BUCKET_KEY: bucket.settings.accessKeyId,
    YARN_STEP_BUCKET_SECRET: bucket.settings.secretAccessKey,
  })
  browser = await openBrowser()
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
  await bucket?.stop()
})

async function namesIn(prefix: string): Promise<string[]> {
  const names = []
  for await (const { name } of bucketObjects(bucket.settings, join(folder, 'look')).list(prefix)) names.push(name)
  return names
}

test('nothing lies in the data folder that another machine would need', async () => {
  expect((await namesIn('media/')).length).toBeGreaterThan(20)
  for (const shelf of ['media', 'exports', 'coded', 'mix'])
    expect(await readdir(join(data, shelf)).catch(() => [])).toEqual([])
  expect(await (await fetch(`${application.url}/api/health`)).json()).toMatchObject({
    store: { ok: true, kind: 'bucket' },
  })
})

test('a lesson opens, and its sound comes in the parts that are asked for', async () => {
  const { page, faults } = await openPage(browser, `${application.url}/lessons/tide-table`)
  await waitForSheet(page)
  const { lesson } = await storedLesson(application.url, 'tide-table')
  const url = `${application.url}/api/media/${lesson.takes[0]!.media}/sound.f32`
  const whole = new Uint8Array(await (await fetch(url)).arrayBuffer())
  const part = await fetch(url, { headers: { range: 'bytes=1000-1999' } })
  expect(part.status).toBe(206)
  expect(new Uint8Array(await part.arrayBuffer())).toEqual(whole.subarray(1000, 2000))
  expect((await fetch(url, { headers: { range: `bytes=${whole.length}-` } })).status).toBe(416)
  expect(faults).toEqual([])
  await page.close()
})

test('a copy of the demo lesson that shows everything comes whole, and there is nothing to find in it', async () => {
  const copy = join(folder, 'crossing.zip')
  const answer = await fetch(`${application.url}/api/lessons/crossing-the-bar/archive`)
  await writeFile(copy, new Uint8Array(await answer.arrayBuffer()))
  expect(await headless('check', copy)).toEqual({ findings: [] })
  const balance = (await headless('mix', copy, '--out', join(folder, 'crossing.wav'), '--stems', folder)) as {
    within: number
    masked: number
  }
  expect(balance.within).toBeGreaterThanOrEqual(0.98)
  expect(balance.masked).toBeLessThanOrEqual(0.002)
  const { lesson } = await storedLesson(application.url, 'crossing-the-bar')
  expect(lesson.marks.every(({ word, place, guessed }) => word && place && guessed === null)).toBe(true)
  const { steps, sounds, nudges, pocket } = lesson
  expect(steps.some(({ more }) => more.length > 0)).toBe(true)
  expect(
    steps.some(({ picture }) => picture.kind === 'recording' && picture.pins.length > 0 && picture.gain !== null),
  ).toBe(true)
  expect(steps.some(({ passages }) => new Set(passages.map(({ media }) => media)).size > 1)).toBe(true)
  expect([sounds.length, nudges.length, pocket.on]).toEqual([3, 2, true])
})

test('files are brought in through it, and finished files come out of it, also by a worker that has nothing of them', async () => {
  const picture = join(folder, 'Slack water.png')
  await writeFile(
    picture,
    await sharp({ create: { width: 640, height: 360, channels: 3, background: '#357' } })
      .png()
      .toBuffer(),
  )
  const { page, faults } = await openPage(browser, application.url)
  await chooseFiles(page, 'first-files', picture)
  await clickOn(page, 'Make the lesson')
  await page.waitForSelector('[role=row]')
  await page.waitForFunction(() => [...document.images].some((one) => one.complete && one.naturalWidth > 0))
  expect(faults).toEqual([])
  await page.close()

  await application.worker.kill('SIGKILL')
  await rm(join(data, 'cache'), { recursive: true, force: true })
  await application.replaceWorker()
  const { channels } = readWav(await madeFile(application.url, 'tide-table', 'sound'))
  expect(channels).toHaveLength(2)
  expect(channels[0]!.length).toBeGreaterThan(48000 * 60)
  const video = join(folder, 'lesson.mp4')
  await writeFile(video, await madeFile(application.url, 'tide-table', 'video'))
  expect(
    await output('ffprobe', ['-v', 'error', '-show_entries', 'stream=codec_name', '-of', 'csv=p=0', video]),
  ).toMatch(/h264\s+aac/)
  // The sound; the video, and beside it its captions.
  const endings = (await namesIn('exports/')).map((name) => name.split('.').at(-1))
  expect(endings.sort()).toEqual(['mp4', 'vtt', 'wav'])
  expect((await namesIn('coded/')).length).toBeGreaterThan(5)
})
