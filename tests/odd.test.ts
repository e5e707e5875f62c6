import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import type { Lesson } from '@/core/lesson/document'
import { output, rawFile, scratch, until } from './support/application'
import {
  chooseFiles,
  chooseSegment,
  clickAt,
  clickOn,
  savedLesson,
  waitForDialog,
  waitForSheet,
  waitForText,
} from './support/browser'
import { sharedSession } from './support/session'

/** Readings that aren't what they should be: of another text, and on one side only. */

const session = sharedSession('/')
const folder = scratch()
let page: Page
beforeAll(() => {
  page = session.page
})

const heard = ({ steps }: Lesson) =>
  steps.flatMap(({ passages }) => passages).reduce((sum, { from, to }) => sum + to - from, 0)

test('a reading of another text is asked about before it is laid; laid all the same, none of it is lost', async () => {
  const [voice, words] = [join(folder, 'on the left.wav'), join(folder, 'accounts.txt')]
  await output('ffmpeg', [
    '-v',
    'error',
    '-i',
    rawFile('reading.mp3'),
    '-t',
    '60',
    '-af',
    'pan=stereo|c0=c0|c1=0*c0',
    voice,
  ])
  await writeFile(
    words,
    [
      'The committee published its annual accounts on Tuesday. Growth in the northern provinces slowed to four percent.',
      'A spokesman for the union described the offer as insulting. Shares in the two largest retailers fell sharply.',
      'Farmers complained about delayed subsidies and heavy rain. Construction should begin before the decade is over.',
    ].join('\n\n'),
  )
  await chooseFiles(page, 'first-files', voice, words, rawFile('leaving-a-berth.pdf'), rawFile('easy-water.mp3'))
  await clickOn(page, 'Make the lesson')
  await waitForDialog(page, 'Is this the right reading?')
  await waitForText(page, 'of the script was found in this recording')
  await clickOn(page, 'Leave it')
  // Nothing was made, and all that was dropped is still there.
  await until(async () => (await page.$$('.ant-modal-confirm')).length === 0)
  expect(new URL(page.url()).pathname).toBe('/')
  await clickOn(page, 'Make the lesson')
  await waitForDialog(page, 'Is this the right reading?')
  await clickOn(page, 'Lay it all the same')
  await waitForSheet(page)
  const { lesson } = await savedLesson(page)
  expect(heard(lesson)).toBeGreaterThan(55)
})

test('a voice on one side is told, and heard as in its file where that is wanted; undo takes it back', async () => {
  const { lesson: before } = await savedLesson(page)
  const [{ media }] = before.takes as [Lesson['takes'][number]]
  await chooseSegment(page, 'Shelf', 'aside')
  await waitForText(page, 'There is sound on its left side only. It is heard in the middle.')
  const row = await page.waitForSelector('aside li ::-p-text(on its left side only)')
  await (await row!.evaluateHandle((at) => at.closest('li')!.querySelector('button')!)).click()
  await clickOn(page, 'Hear both sides as in the file')
  const swapped = await until(async () => {
    const { lesson } = await savedLesson(page)
    return lesson.takes[0]!.media !== media && lesson
  })
  expect(swapped.steps.flatMap(({ passages }) => passages).some((passage) => passage.media === media)).toBe(false)
  expect(swapped.shelf.some((item) => item.media === media)).toBe(false)
  await page.keyboard.press('Escape')
  await clickOn(page, 'Undo')
  await until(async () => (await savedLesson(page)).lesson.takes[0]!.media === media)
})

test('a take tells it in the booth too, and is heard as in its file from there', async () => {
  const { lesson: before } = await savedLesson(page)
  const [take] = before.takes as [Lesson['takes'][number]]
  await clickOn(page, 'Booth')
  const place = before.steps.findIndex(({ id }) => id === take.step) + 1
  await clickAt(page, `nav[aria-label=Steps] button:nth-child(${place})`)
  await page.waitForSelector(`[data-take="${take.name}"] ::-p-text(on its left side only)`)
  await clickOn(page, `More for ${take.name}`)
  await clickOn(page, 'Hear both sides as in the file')
  await until(async () => (await savedLesson(page)).lesson.takes[0]!.media !== take.media)
  await page.waitForFunction(() => !document.body.innerText.includes('on its left side only'))
  await clickOn(page, 'Undo')
  await until(async () => (await savedLesson(page)).lesson.takes[0]!.media === take.media)
})
