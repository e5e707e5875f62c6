import type { Page } from 'puppeteer-core'
import { LIMITS } from '@/core/lesson/limits'
import { newStep } from '@/core/lesson/newParts'
import { until } from './support/application'
import {
  chooseSegment,
  clickOn,
  retype,
  newLesson,
  savedLesson,
  storedLesson,
  storeLesson,
  waitForSheet,
  waitForText,
} from './support/browser'
import { sharedSession } from './support/session'

/** Steps that all lessons of a course begin or end with: said in one lesson, and there in the others. */

const session = sharedSession('/lessons/crossing-the-bar')
let page: Page
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
})

const titlesOf = async (lesson: string) =>
  (await storedLesson(session.application.url, lesson)).lesson.steps.map(({ title }) => title)
const becomes = (lesson: string, first: string, count: number) =>
  until(async () => {
    const titles = await titlesOf(lesson)
    return titles[0] === first && titles.length === count && titles
  })

async function shareFirstStep(): Promise<void> {
  await page.keyboard.press('Home')
  await chooseSegment(page, 'Video')
  await clickOn(page, 'The selected step in all lessons')
  await clickOn(page, 'In all lessons')
}

async function retitle(title: string): Promise<void> {
  await page.keyboard.press('Home')
  await chooseSegment(page, 'Selected')
  await retype(page, '#step-title', title)
  await page.keyboard.press('Tab')
  await page.keyboard.press('Escape')
}

test('the first step of a lesson becomes the first of all, is changed in one place, and goes again', async () => {
  const before = await titlesOf('tide-table')
  const [welcome] = await titlesOf('crossing-the-bar')
  await shareFirstStep()
  await becomes('tide-table', welcome!, before.length + 1)
  await becomes('harbour-lights', welcome!, (await titlesOf('harbour-lights')).length)
  expect(await titlesOf('crossing-the-bar')).toEqual((await savedLesson(page)).lesson.steps.map(({ title }) => title))
  // It is said there, too, by the same take.
  const there = (await storedLesson(session.application.url, 'tide-table')).lesson
  const here = (await savedLesson(page)).lesson
  expect(there.steps[0]).toEqual(here.steps[0])
  expect(there.takes).toEqual(expect.arrayContaining(here.takes.filter(({ step }) => step === here.steps[0]!.id)))

  // A new lesson of the course begins with it.
  const fresh = await newLesson(session.application.url, 'Anchoring', 'coastal')
  expect(await titlesOf(fresh)).toEqual([welcome])

  await retitle('Welcome aboard')
  await chooseSegment(page, 'Video')
  await waitForText(page, '(otherwise in this lesson)')
  await shareFirstStep()
  await becomes('tide-table', 'Welcome aboard', before.length + 1)
  await becomes(fresh, 'Welcome aboard', 1)

  await clickOn(page, 'Share none')
  await clickOn(page, 'Take them out')
  await becomes('tide-table', before[0]!, before.length)
  await until(async () => (await titlesOf('crossing-the-bar'))[0] !== 'Welcome aboard')
  // What was taken out here comes back like any change.
  await clickOn(page, 'Undo')
  await until(async () => (await titlesOf('crossing-the-bar'))[0] === 'Welcome aboard')
})

test('where one lesson could not follow, none is changed, and it is named', async () => {
  const { url } = session.application
  const { lesson, revision } = await storedLesson(url, 'harbour-lights')
  const more = Array.from({ length: LIMITS.items.steps - lesson.steps.length }, (_, i) =>
    newStep(`more-${i}`, 'More', { kind: 'card', lines: ['More'] }),
  )
  await storeLesson(url, 'harbour-lights', revision, { ...lesson, steps: [...lesson.steps, ...more] })
  const before = await titlesOf('tide-table')
  await shareFirstStep()
  await waitForText(page, `“${lesson.title}” can't follow, so no lesson was changed. A lesson can have 2,000 steps`)
  expect(await titlesOf('tide-table')).toEqual(before)
  await storeLesson(url, 'harbour-lights', revision + 1, lesson)
})

test('what is shared no longer can be left to each lesson', async () => {
  const before = await titlesOf('tide-table')
  await shareFirstStep()
  await becomes('tide-table', 'Welcome aboard', before.length + 1)
  await clickOn(page, 'Share none')
  await clickOn(page, 'Leave them to each')
  await waitForText(page, 'Each lesson keeps them as its own.')
  await waitForText(page, 'Every lesson begins with: nothing in common')
  expect(await titlesOf('tide-table')).toEqual(['Welcome aboard', ...before])
})
