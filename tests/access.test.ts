import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { Page } from 'puppeteer-core'
import { de } from '@/messages/de'
import { en } from '@/messages/en'
import { LANGUAGE_COOKIE } from '@/messages/languages'
import { PALETTES } from '@/ui/ground/palette'
import {
  chooseSegment,
  clickAt,
  clickOn,
  controlsBeyond,
  storedLesson,
  waitForRest,
  waitForSheet,
  waitForText,
  waitForWords,
  goTo,
} from './support/browser'
import { until } from './support/application'
import { sharedSession } from './support/session'

/** For everybody: every screen and dialog by WCAG 2.2 A and AA, as axe-core measures it; on both grounds. */

interface Axe {
  run(where: Document, options: object): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>
}

const session = sharedSession('/')
const LESSON = '/lessons/crossing-the-bar'
let page: Page
let axe: string
beforeAll(async () => {
  page = session.page
  axe = await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
})

/** What is wrong, as rule and element. */
async function violations(isMenu: boolean): Promise<string[]> {
  await waitForRest(page)
  await page.evaluate(axe)
  return page.evaluate(async (menu) => {
    const runOnly = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']
    // An open menu belongs to no part of the page: only good practice wants it in one, not WCAG.
    const rules = { region: { enabled: !menu } }
    const { violations: found } = await (window as unknown as { axe: Axe }).axe.run(document, { runOnly, rules })
    return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`))
  }, isMenu)
}

async function open(path: string, words: string): Promise<void> {
  await goTo(page, session.application.url + path)
  await waitForText(page, words)
}
async function openSheet(): Promise<void> {
  await open(LESSON, 'Look before you go')
  await waitForSheet(page)
  await waitForWords(page)
}
const dialog = () => page.waitForSelector('[role=dialog]', { visible: true })

const SCREENS: Record<string, () => Promise<unknown>> = {
  home: () => open('/', 'Crossing the bar'),
  'a course': async () => {
    await open('/', 'Crossing the bar')
    await goTo(page, await page.$eval('a[href^="/courses/"]', (link) => (link as HTMLAnchorElement).href))
    await waitForText(page, 'LUFS')
  },
  'making a course': () => open('/courses/coastal/make', 'Reading a tide table'),
  sheet: openSheet,
  'words at the caret': () => clickAt(page, '[data-word="3"]'),
  'a picked sound': () => clickAt(page, '[data-kind=sound]'),
  'a layer over the picture': async () => {
    await clickAt(page, '[data-word="3"]')
    await clickOn(page, 'What to do')
    await page.waitForSelector('[role=combobox][aria-label^="What do"]')
    await page.keyboard.type('put a ring')
    await page.waitForSelector('[role=option][aria-selected=true]')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[data-testid=easel] [role=group]')
    await clickOn(page, 'How words and pointers look in this lesson')
  },
  'how pictures give way': async () => {
    await clickOn(page, 'Undo')
    await page.keyboard.press('Escape')
    await clickAt(page, '[data-word="3"]')
    await clickOn(page, 'How its picture gives way to the next')
  },
  'captions of a step': async () => {
    await clickAt(page, '[data-word="3"]')
    await clickOn(page, 'Its captions')
    await page.waitForSelector('ol[aria-label="Captions of this step"] textarea')
  },
  'the settings of all pictures': async () => {
    await chooseSegment(page, 'Video', 'aside')
    await page.waitForSelector('[aria-label="Size of captions"]')
  },
  'the menu of a word': async () => {
    await clickAt(page, '[data-word="3"]', { button: 'right' })
    await page.waitForSelector('[role=menuitem]')
  },
  music: async () => {
    await page.keyboard.press('Escape')
    await chooseSegment(page, 'Music', 'aside')
  },
  'making a piece': async () => {
    await clickOn(page, 'Make a piece…')
    await dialog()
  },
  sounds: async () => {
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
    await chooseSegment(page, 'Sounds', 'aside')
  },
  shelf: () => chooseSegment(page, 'Shelf', 'aside'),
  'length of a step': async () => {
    await clickAt(page, '[data-length] button')
    await page.waitForSelector('[aria-label="Length rule"]')
  },
  'list of keys': async () => {
    await openSheet()
    await page.keyboard.press('?')
    await dialog()
  },
  'list of commands': async () => {
    await openSheet()
    await clickOn(page, 'What to do')
    await page.waitForSelector('[role=combobox][aria-label^="What do"]')
  },
  'earlier versions': async () => {
    await openSheet()
    await clickOn(page, 'Copy and versions')
    await clickOn(page, 'Earlier versions…')
    await dialog()
  },
  booth: () => open(`${LESSON}/booth`, 'Open the microphone'),
  'voice of the lesson': async () => {
    await clickOn(page, 'Voice and clean-up…')
    await dialog()
  },
  'clean-up': () => clickOn(page, 'Clean-up'),
  pauses: () => clickOn(page, 'Pauses'),
  balance: () => open(`${LESSON}/balance`, 'Worst moments'),
  finish: () => open(`${LESSON}/finish`, 'Credits'),
}

describe.each(Object.keys(PALETTES))('on a %s ground', (ground) => {
  beforeAll(async () => {
    await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: ground === 'dark' ? 'dark' : 'light' }])
    // From here on the server knows what the system asks for: pages come on it.
    await page.waitForFunction((seen) => document.cookie.includes(`system-ground=${seen}`), {}, ground)
  })
  test.each(Object.keys(SCREENS))('%s', async (name) => {
    await SCREENS[name]!()
    expect(await violations(name.startsWith('the menu'))).toEqual([])
  })
})

/** What is written on a control and does not fit into it. Words of the sheet may be cut where they are said quickly. */
const cutOff = () =>
  page.$$eval('button:not([data-word]), a, .ant-segmented-item-label, .ant-select-content', (all) =>
    all
      .filter((one) => {
        const { width, height } = one.getBoundingClientRect()
        return (
          width > 2 &&
          height > 2 &&
          one.scrollWidth > one.clientWidth + 1 &&
          getComputedStyle(one).overflowX !== 'visible'
        )
      })
      .map((one) => one.textContent),
  )

/** All that the page says by its own words, also to those who only listen, as it would say it in English. */
const saidInEnglish = async () => {
  const lessons = await Promise.all(
    ['crossing-the-bar', 'tide-table', 'harbour-lights'].map((id) => storedLesson(session.application.url, id)),
  )
  // What authors have written themselves is in their own language.
  const written = JSON.stringify(lessons)
  const said = await page.evaluate(() => {
    const named = ['aria-label', 'title', 'placeholder', 'alt']
    const elements = [...document.body.querySelectorAll<HTMLElement>('*')].filter(
      (one) => !one.closest('[aria-hidden=true], script'),
    )
    return elements.flatMap((one) => [
      ...named.map((name) => one.getAttribute(name) ?? ''),
      ...[...one.childNodes].filter(({ nodeType }) => nodeType === Node.TEXT_NODE).map((text) => text.textContent!),
    ])
  })
  return [...new Set(said.map((words) => words.trim()))].filter(
    (words) => ENGLISH.has(words) && !written.includes(words),
  )
}

/** What is not the same in German; and what ready-made parts say by themselves. */
const ENGLISH = new Set([...stringsIn(en), 'Close', 'Increase Value', 'Decrease Value', 'small', 'usual', 'large'])
for (const words of stringsIn(de)) ENGLISH.delete(words)

function stringsIn(messages: object): string[] {
  return Object.values(messages).flatMap((one) => (typeof one === 'string' ? [one] : stringsIn(one as object)))
}

describe('in German, whose words are longer', () => {
  const cookie = () => ({ name: LANGUAGE_COOKIE, url: session.application.url, value: 'de' })
  beforeAll(() => page.setCookie(cookie()))
  afterAll(async () => {
    await page.deleteCookie(cookie())
    await page.setViewport({ width: 1280, height: 800 })
  })

  const ADDRESSES = [
    '/',
    '/courses/coastal',
    '/courses/coastal/make',
    LESSON,
    `${LESSON}/booth`,
    `${LESSON}/balance`,
    `${LESSON}/finish`,
  ]
  test.each(ADDRESSES)('%s: nothing wrong, cut off or out of reach', async (address) => {
    for (const width of [1280, 1024]) {
      await page.setViewport({ width, height: 800 })
      await open(address, 'Crossing the bar')
      expect(await page.evaluate(() => document.documentElement.lang)).toBe('de')
      expect(await violations(false)).toEqual([])
      expect({ width, beyond: await controlsBeyond(page), cut: await cutOff() }).toEqual({ width, beyond: [], cut: [] })
    }
    expect(await saidInEnglish()).toEqual([])
    // As on a telephone, or where everything is four times as large: only downwards does one have to go.
    for (const width of [640, 320]) {
      await page.setViewport({ width, height: 800 })
      await waitForRest(page)
      const needed = () => page.evaluate(() => document.documentElement.scrollWidth)
      await until(async () => (await needed()) <= width).catch(() => {})
      expect(await needed()).toBeLessThanOrEqual(width)
    }
  })
})

test('the ground is chosen by hand, and the next page comes with it', async () => {
  await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'light' }])
  await openSheet()
  const paper = () => page.$eval('header', (one) => getComputedStyle(one).backgroundColor)
  const day = await paper()
  await clickOn(page, 'How the pages look')
  await clickOn(page, 'Dark')
  await page.waitForFunction(
    (was) => getComputedStyle(document.querySelector('header')!).backgroundColor !== was,
    {},
    day,
  )
  const html = await (await fetch(session.application.url, { headers: { cookie: 'yarn-step-ground=dark' } })).text()
  expect(html).toContain('data-ground="dark"')
  await clickOn(page, 'How the pages look')
  await clickOn(page, 'As the system')
  await page.waitForFunction(
    (was) => getComputedStyle(document.querySelector('header')!).backgroundColor === was,
    {},
    day,
  )
})

test('where the caret goes is said, and the score is reached and left by Tab', async () => {
  await openSheet()
  await page.keyboard.press('Tab')
  expect(await page.evaluate(() => document.activeElement?.textContent?.trim())).toBe('To the work')
  await page.focus('[role=grid]')
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowRight')
  const said = () => page.$eval('[data-testid=caret-said]', (one) => one.textContent)
  await page.waitForFunction(() => document.querySelector('[data-testid=caret-said]')?.textContent === 'Before you')
  const active = await page.$eval('[role=grid]', (grid) =>
    document.getElementById(grid.getAttribute('aria-activedescendant')!)?.getAttribute('aria-label'),
  )
  expect(active).toMatch(/^Step 2, Look before you go/)
  await page.keyboard.down('Shift')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.up('Shift')
  await page.waitForFunction(() =>
    document.querySelector('[data-testid=caret-said]')?.textContent?.startsWith('Selected'),
  )
  expect(await said()).toBe('Selected: you go,')
  expect(await page.evaluate(() => document.activeElement?.getAttribute('role'))).toBe('grid')
})
