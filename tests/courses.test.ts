import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import type { MeasuredFile } from '@/core/delivery/measured'
import { bytesOf, entriesOf, openZip } from '@/media/zip'
import type { CourseListing } from '@/core/course/listing'
import { documentOf } from '@/core/lesson/telling'
import { scratch, startApplication, until, type Application } from './support/application'
import {
  chooseFiles,
  clickAt,
  clickOn,
  openBrowser,
  openPage,
  retype,
  storedLesson,
  waitForText,
  goTo,
} from './support/browser'

/** Courses and their lessons on the home page: named, put in order, moved, duplicated, deleted and brought back. */

const folder = scratch()
let application: Application
let browser: Browser
let page: Page
let faults: string[]

beforeAll(async () => {
  application = await startApplication()
  // One course of two lessons is enough to begin with.
  for (const one of ['courses/learn', 'lessons/harbour-lights'])
    await fetch(`${application.url}/api/${one}`, { method: 'DELETE', headers: { origin: application.url } })
  browser = await openBrowser()
  ;({ page, faults } = await openPage(browser, application.url))
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})
afterEach(() => expect(faults).toEqual([]))

const courses = async () => (await (await fetch(`${application.url}/api/courses`)).json()) as CourseListing[]
const titles = async () =>
  (await courses()).map(({ title, lessons }) => [title, ...lessons.map((lesson) => lesson.title)].join(' | '))
/** The same as the page shows it, which is a moment later. */
const shownTitles = () =>
  page.$$eval('section[aria-label]:has(> div > h2)', (all) =>
    all.map((course) => [...course.querySelectorAll('h2, article b')].map((one) => one.textContent).join(' | ')),
  )
/** In the database, and then on the page: what moves while one aims at it is missed. */
async function becomes(expected: string[]): Promise<void> {
  for (const told of [titles, shownTitles]) {
    await until(async () => (await told()).join() === expected.join()).catch(() => {})
    expect(await told()).toEqual(expected)
  }
}

async function fromMenu(of: string, ...entries: string[]): Promise<void> {
  await clickOn(page, `What to do with ${of}`)
  for (const entry of entries) await clickOn(page, entry)
}

async function typeTitle(label: string, title: string): Promise<void> {
  const field = await page.waitForSelector(`input[aria-label="${label}"]`)
  // Once the dialog stands still and has the focus.
  await page.waitForFunction(() => !document.querySelector('[class*="-zoom-"]'), { polling: 100 })
  // One looks at what one has typed: a busy machine may give the dialog its focus late.
  await until(async () => {
    await field!.evaluate((one) => (one.focus(), (one as HTMLInputElement).select()))
    await page.keyboard.type(title)
    return (await field!.evaluate((one) => (one as HTMLInputElement).value)) === title
  })
  await page.keyboard.press('Enter')
}

/** Instead of the video that is offered. */
async function chooseMp3(): Promise<void> {
  const field = await page.waitForSelector('input[aria-label="What to make of each lesson"]')
  await field!.focus()
  await page.keyboard.press('Backspace')
  await page.keyboard.type('MP3')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
}

test('a whole course is made in one go, downloaded as one zip, and only what has changed is made again', async () => {
  await clickOn(page, 'Make the whole course')
  await chooseMp3()
  await clickOn(page, 'Make 2 files')
  await waitForText(page, 'Download 2 files')
  const href = await page.$$eval('a', (links) => links.find((link) => link.textContent === 'Download 2 files')!.href)
  const zip = join(folder, 'course.zip')
  await writeFile(zip, Buffer.from(await (await fetch(href)).arrayBuffer()))
  const opened = await openZip(zip)
  const entries = await entriesOf(opened, 10, (why) => new Error(why))
  expect([...entries.keys()]).toEqual([
    'Reading a tide table.mp3',
    'Crossing the bar.mp3',
    'measured.json',
    'measured.html',
  ])
  const measured = JSON.parse(String(await bytesOf(opened, entries.get('measured.json')!))) as MeasuredFile[]
  for (const { balance } of measured) {
    expect(Math.abs(balance!.loudness! + 16)).toBeLessThan(0.3)
    expect(balance!.within).toBeGreaterThan(0.97)
  }
  opened.close()
  await goTo(page, application.url)
  await fromMenu('Crossing the bar', 'Rename…')
  await typeTitle('Title of the lesson', 'Crossing it')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Crossing it'])
  await clickOn(page, 'Make the whole course')
  await chooseMp3()
  await waitForText(page, 'Make one file')
  await waitForText(page, 'changed since')
  await goTo(page, application.url)
  await fromMenu('Crossing it', 'Rename…')
  await typeTitle('Title of the lesson', 'Crossing the bar')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Crossing the bar'])
})

test('a lesson is renamed, duplicated and moved', async () => {
  await fromMenu('Crossing the bar', 'Rename…')
  await typeTitle('Title of the lesson', 'Over the bar')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar'])
  await fromMenu('Over the bar', 'Duplicate')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar | Over the bar (copy)'])
  await waitForText(page, 'Over the bar (copy)')
  await fromMenu('Over the bar (copy)', 'Move earlier')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar (copy) | Over the bar'])
  await clickOn(page, 'New course')
  await typeTitle('Title of the course', 'Night sailing')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar (copy) | Over the bar', 'Night sailing'])
  await fromMenu('Over the bar (copy)', 'Move to another course…')
  await clickOn(page, 'Night sailing')
  await clickOn(page, 'Move the lesson')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar', 'Night sailing | Over the bar (copy)'])
  // The copy is a lesson of its own.
  const [first, second] = await courses()
  expect(second!.lessons[0]!.id).not.toBe(first!.lessons[1]!.id)
})

test('courses are renamed and put in order', async () => {
  await fromMenu('the course Night sailing', 'Rename…')
  await typeTitle('Title of the course', 'By night')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar', 'By night | Over the bar (copy)'])
  await fromMenu('the course By night', 'Move up')
  await becomes(['By night | Over the bar (copy)', 'Coastal Skipper Basics | Reading a tide table | Over the bar'])
})

test('a lesson is found by a part of its name or of its course', async () => {
  const field = '[aria-label="Find a lesson"]'
  const shown = () => page.$$eval('article b', (all) => all.map((one) => one.textContent))
  await retype(page, field, 'TIDE')
  expect(await shown()).toEqual(['Reading a tide table'])
  await retype(page, field, 'night')
  expect(await shown()).toEqual(['Over the bar (copy)'])
  await retype(page, field, 'spinnaker')
  await waitForText(page, 'No lesson or course is called so.')
  await retype(page, field, '')
  await page.keyboard.press('Backspace')
  expect(await shown()).toHaveLength(3)
})

test('what is deleted is gone for everybody, and can be brought back: at once, and later', async () => {
  const copy = (await courses())[0]!.lessons[0]!.id
  await fromMenu('Over the bar (copy)', 'Delete')
  await becomes(['By night', 'Coastal Skipper Basics | Reading a tide table | Over the bar'])
  expect((await fetch(`${application.url}/api/lessons/${copy}`)).status).toBe(404)
  expect((await fetch(`${application.url}/lessons/${copy}`)).status).toBe(404)
  // In the notice that says so; the list below the courses has one, too.
  const offer = await page.waitForSelector('[role=alert] button, .ant-notification button:not([aria-label])')
  await offer!.evaluate((one) => (one as HTMLElement).click())
  await becomes(['By night | Over the bar (copy)', 'Coastal Skipper Basics | Reading a tide table | Over the bar'])

  await fromMenu('the course By night', 'Delete with its lessons')
  await becomes(['Coastal Skipper Basics | Reading a tide table | Over the bar'])
  await fromMenu('Over the bar', 'Delete')
  await becomes(['Coastal Skipper Basics | Reading a tide table'])
  await page.reload()
  await clickAt(page, 'summary')
  await waitForText(page, '4 things were deleted lately')
  await clickOn(page, 'Bring back By night')
  await becomes(['By night | Over the bar (copy)', 'Coastal Skipper Basics | Reading a tide table'])
  await clickOn(page, 'Bring back Over the bar')
  await becomes(['By night | Over the bar (copy)', 'Coastal Skipper Basics | Reading a tide table | Over the bar'])
})

test('a whole course is saved as one copy, and opened again beside itself', async () => {
  const before = await titles()
  const [course] = await courses()
  const bytes = await (await fetch(`${application.url}/api/courses/${course!.id}/archive`)).arrayBuffer()
  const copy = join(folder, 'copy of a course.zip')
  await writeFile(copy, Buffer.from(bytes))
  await chooseFiles(page, 'open-copy', copy)
  await becomes([...before, before[0]!])
  await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
  const opened = (await courses()).at(-1)!
  expect(opened.id).not.toBe(course!.id)
  const [own, copied] = await Promise.all(
    [course, opened].map(async (one) => documentOf((await storedLesson(application.url, one!.lessons[0]!.id)).lesson)),
  )
  expect(copied).toEqual(own)
})
