import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { readWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { headless, startApplication, type Application } from './application'
import { clickOn, openBrowser, openPage, savedLesson } from './browser'

/** One application with one page that all tests of a file share; a fault in the page fails the test it happens in. */
export interface Session {
  application: Application
  page: Page
  /** The lesson as it is saved. */
  lesson(): Promise<Lesson>
  lessonId(): string
  /** Undoes until the lesson is what it was. */
  undoTo(before: Lesson): Promise<void>
  /** The lesson's mix and stems as the headless command makes them of a saved copy. */
  mixed(folder: string, name: string): Promise<Record<'mix' | 'voice' | 'bed' | 'sounds', Float32Array[]>>
}

/** Opens the session before the file's first test and closes it after the last one. `path` is where the page begins. */
export function sharedSession(path: string): Session {
  const session = {} as Session
  let browser: Browser
  let faults: string[]
  beforeAll(async () => {
    session.application = await startApplication()
    browser = await openBrowser()
    const opened = await openPage(browser, session.application.url + path)
    session.page = opened.page
    faults = opened.faults
  })
  afterAll(async () => {
    await browser?.close()
    await session.application?.stop()
  })
  afterEach(() => expect(faults).toEqual([]))
  session.lesson = async () => (await savedLesson(session.page)).lesson
  session.lessonId = () => new URL(session.page.url()).pathname.split('/')[2]!
  session.undoTo = async (before) => {
    const isBack = async () => JSON.stringify(await session.lesson()) === JSON.stringify(before)
    for (let i = 0; i < 12 && !(await isBack()); i++) await clickOn(session.page, 'Undo')
    expect(await session.lesson()).toEqual(before)
  }
  session.mixed = async (folder, name) => {
    await savedLesson(session.page)
    const archive = join(folder, `${name}.zip`)
    const response = await fetch(`${session.application.url}/api/lessons/${session.lessonId()}/archive`)
    await writeFile(archive, Buffer.from(await response.arrayBuffer()))
    await headless('mix', archive, '--out', join(folder, `${name}.wav`), '--stems', join(folder, name))
    const read = async (path: string) => readWav(await readFile(path)).channels
    return {
      mix: await read(join(folder, `${name}.wav`)),
      voice: await read(join(folder, name, 'voice.wav')),
      bed: await read(join(folder, name, 'bed.wav')),
      sounds: await read(join(folder, name, 'sounds.wav')),
    }
  }
  return session
}
