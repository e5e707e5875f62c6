import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { HARBOUR_LIGHTS } from '@/demo/harbourLights'
import { writeVtt } from '@/core/formats/captionFiles'
import { layoutLesson } from '@/core/lesson/layout'
import { rawFile, scratch } from './support/application'
import { chooseFiles, chooseOption, clickOn, savedLesson, waitForSheet, waitForText } from './support/browser'
import { sharedSession } from './support/session'

/** A deck with notes, and nothing else, becomes a lesson that can be watched; captions of somewhere become what it says. */

const session = sharedSession('/')
const folder = scratch()
let page: Page
beforeAll(() => {
  page = session.page
})

const SHOWN = HARBOUR_LIGHTS.filter(({ isHidden }) => !isHidden)

test('a step a slide, its notes read by a stand-in, with music, after four clicks', async () => {
  await chooseFiles(page, 'first-files', rawFile('harbour-lights.pptx'))
  await waitForText(page, `A synthesised voice reads the ${SHOWN.length} steps that have words`)
  await waitForText(page, 'Also show the slide that is hidden in the deck')
  await chooseOption(page, 'Music', 'Harp, made for this lesson')
  await clickOn(page, 'Make the lesson')
  await waitForSheet(page)
  const { lesson } = await savedLesson(page)
  expect(lesson.title).toBe('Harbour lights')
  expect(lesson.steps.map(({ title, script }) => ({ title, notes: script }))).toEqual(
    SHOWN.map(({ title, notes }) => ({ title, notes })),
  )
  expect(lesson.takes.map(({ kind, step }) => [kind, step])).toEqual(lesson.steps.map(({ id }) => ['read', id]))
  expect(lesson.bedCues).toHaveLength(1)
  for (const { passages } of lesson.steps) expect(passages[0]!.to - passages[0]!.from).toBeGreaterThan(4)
})

test('captions that are brought in are what the steps under them say; one undo takes that back', async () => {
  const { lesson: before } = await savedLesson(page)
  const [, second, third] = layoutLesson(before).steps
  const file = join(folder, 'corrected.vtt')
  const captions = [
    { start: second!.start + 1, end: second!.start + 3, lines: ['Red is left,', 'green is right.'] },
    { start: third!.start + 1, end: third!.start + 2, lines: ['Two lights, one channel.'] },
  ]
  await writeFile(file, writeVtt(captions))
  await chooseFiles(page, 'bring-in', file)
  await waitForText(page, 'Now the script of 2 steps')
  const { lesson: after } = await savedLesson(page)
  expect(after.steps.map(({ script }) => script)).toEqual([
    before.steps[0]!.script,
    'Red is left, green is right.',
    'Two lights, one channel.',
    ...before.steps.slice(3).map(({ script }) => script),
  ])
  await clickOn(page, 'Undo')
  expect((await savedLesson(page)).lesson).toEqual(before)
})

test('a file without captions says so, and changes nothing', async () => {
  const { lesson: before } = await savedLesson(page)
  const file = join(folder, 'empty.srt')
  await writeFile(file, 'nothing is said')
  await chooseFiles(page, 'bring-in', file)
  await waitForText(page, 'There are no captions in this file')
  expect((await savedLesson(page)).lesson).toEqual(before)
})
