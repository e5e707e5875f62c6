import type { Page } from 'puppeteer-core'
import { until } from './support/application'
import { clickOn, savedLesson, waitForSheet, waitForText } from './support/browser'
import { onRequests } from './support/requests'
import { sharedSession } from './support/session'

/** What can be done on the sheet is found by what people call it: by the list of commands, and by the menu of a row. */

const session = sharedSession('/lessons/crossing-the-bar')
let page: Page
beforeAll(async () => {
  page = session.page
  await waitForSheet(page)
})

async function command(sought: string, key = 'Enter'): Promise<void> {
  await page.keyboard.down('Control')
  await page.keyboard.press('k')
  await page.keyboard.up('Control')
  await page.waitForSelector('[role=combobox][aria-label="What do you want to do?"]')
  await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'combobox')
  await page.keyboard.type(sought)
  await page.keyboard.press(key as 'Enter')
}
const isClosed = () => page.waitForFunction(() => !document.querySelector('[role=combobox][aria-label^="What do"]'))
const caretStep = () =>
  page.$eval('[role=row][aria-selected=true]', (row) => row.getAttribute('aria-label')!.split(',')[0])

test('music is made quieter by saying so', async () => {
  const before = (await savedLesson(page)).lesson
  await command('make the music quieter')
  await isClosed()
  await until(async () => (await savedLesson(page)).lesson.targets.clearance === before.targets.clearance + 2)
  await waitForText(page, 'The music stays 18 LU under the voice now.')
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
})

test('a part of the page that can not be had now comes when the server is back, and the rest stays', async () => {
  let lost = 0
  const end = await onRequests(page, '*/_next/static/chunks/*', () => {
    lost++
    return 'is lost'
  })
  await page.keyboard.down('Control')
  await page.keyboard.press('f')
  await page.keyboard.up('Control')
  // The bundler tries it twice by itself.
  await until(async () => lost > 2)
  expect(await page.$('[data-step]')).not.toBeNull()
  await end()
  await page.waitForSelector('input[aria-label="Find words, or a step by its number"]')
  await page.keyboard.press('Escape')
})

test('steps are gone to by title and by number, words by what is said', async () => {
  await command('posts')
  // The step itself comes before the words that are said in it.
  await isClosed()
  await until(async () => (await caretStep()) === 'Step 4')
  await command('2')
  await isClosed()
  await until(async () => (await caretStep()) === 'Step 2')
  await command('harbour office', 'ArrowUp')
  // From the first round to the last: the words.
  await page.keyboard.press('Enter')
  await isClosed()
  await until(async () => (await caretStep()) === 'Step 5')
})

test('a setting is found by what people call it, and is ready to be changed', async () => {
  /** It has the focus; after that the keys are the sheet's again. */
  const focused = async (name: string) => {
    await page.waitForFunction(
      (wanted) => {
        const now = document.activeElement as HTMLInputElement | null
        return now?.getAttribute('aria-label') === wanted || now?.labels?.[0]?.textContent === wanted
      },
      {},
      name,
    )
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  }
  await command('shorter side')
  await isClosed()
  await focused('Lines of the shorter side')
  await command('lead-in')
  await isClosed()
  await focused('Lead-in, before the first word')
  // Folded away until it is asked for.
  await command('section part')
  await isClosed()
  await focused('Whether this step begins a chapter')
})

test('what nobody means says so, and Escape leaves all as it was', async () => {
  const before = await savedLesson(page)
  await command('spinnaker')
  await waitForText(page, 'Nothing is called so.')
  await page.keyboard.press('Escape')
  await isClosed()
  expect((await savedLesson(page)).lesson).toEqual(before.lesson)
})

test('the menu of a row does to it what it says, by pointer and by keys', async () => {
  const before = (await savedLesson(page)).lesson
  const margin = await page.waitForSelector('[role=row][aria-label^="Step 2"] [title^="Click to select"]')
  await margin!.click({ button: 'right' })
  await page.waitForSelector('[role=menuitem]')
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
      .find((one) => one.textContent!.startsWith('Duplicate the selected steps'))!
      .click(),
  )
  const doubled = (await savedLesson(page)).lesson
  expect(doubled.steps.map(({ title }) => title)).toEqual(
    before.steps.flatMap(({ title }, i) => (i === 1 ? [title, title] : [title])),
  )
  await page.waitForFunction(() => !document.querySelector('[role=menuitem]'))
  // The copy is selected now; its menu opens by keys, and the last entry moves it.
  await page.keyboard.down('Shift')
  await page.keyboard.press('F10')
  await page.keyboard.up('Shift')
  await page.waitForFunction(() => document.activeElement?.closest('[role=menu]') !== null)
  await page.keyboard.press('Escape')
  await page.waitForFunction(() => !document.querySelector('[role=menuitem]'))
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
})

test('in German everything is said in German, and found by German words', async () => {
  const before = (await savedLesson(page)).lesson
  await clickOn(page, 'How the pages look')
  await clickOn(page, 'Deutsch')
  await page.waitForFunction(() => document.documentElement?.lang === 'de')
  await waitForSheet(page)
  await page.keyboard.down('Control')
  await page.keyboard.press('k')
  await page.keyboard.up('Control')
  await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'combobox')
  await page.keyboard.type('Musik leiser')
  await page.keyboard.press('Enter')
  await waitForText(page, 'Die Musik bleibt jetzt 18 LU unter der Stimme.')
  // The dialog lies over the button until it has gone.
  await page.waitForFunction(() => !document.querySelector('[role=combobox][aria-label^="Was möchten"]'))
  await clickOn(page, 'Rückgängig')
  await page.waitForSelector('[aria-label="Rückgängig"]:disabled')
  const refused = await page.evaluate(async () => (await (await fetch('/api/lessons/gone/archive')).json()) as unknown)
  expect(refused).toEqual({
    error: 'Diese Lektion ist nicht mehr da. Vielleicht wurde sie in einem anderen Fenster gelöscht.',
  })
  await clickOn(page, 'Wie die Seiten aussehen')
  await clickOn(page, 'English')
  await page.waitForFunction(() => document.documentElement?.lang === 'en')
  await waitForSheet(page)
  // What was undone in the last moment was kept in the browser.
  await until(async () => (await savedLesson(page)).lesson.targets.clearance === before.targets.clearance)
  expect((await savedLesson(page)).lesson).toEqual(before)
})
