import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import type { Browser, Frame, Page } from 'puppeteer-core'
import { headless, output, scratch, until } from './support/application'
import { clickAt, openBrowser, openPage } from './support/browser'
import { makeSmallLesson } from './support/smallLesson'
import { courseSite, unpack, type Site } from './support/site'

/** Packages for course sites: opened from a folder, and in a stand-in of such a site by each standard. */

const folder = scratch()
const at = (name: string) => join(folder, name)
const WORDS = [
  'Watch the bar for five minutes before you cross it, and count the seconds between two large waves.',
  'Where the water is < 3 metres deep & white, you wait, and you call the harbour office before you try it once more.',
]
let browser: Browser

beforeAll(async () => {
  const pictures = [
    ['bar', '#12475a'],
    ['water', '#5a1247'],
  ] as const
  await makeSmallLesson(folder, pictures, WORDS, '--title', 'The bar <1>')
  browser = await openBrowser()
})
afterAll(() => browser?.close())

async function packaged(standard: string): Promise<string> {
  await headless('package', at('lesson.zip'), '--standard', standard, '--out', at(`${standard}.zip`))
  await unpack(at(`${standard}.zip`), at(standard))
  return at(standard)
}

/** Plays it to the end, as quickly as its page offers. */
async function watch(page: Page | Frame): Promise<void> {
  await page.waitForFunction(() => document.querySelector('video')!.readyState >= 2)
  await page.select('#speed', '2')
  await clickAt(page, 'video')
  await page.evaluate(() => document.querySelector('video')!.play())
  await page.waitForFunction(() => document.getElementById('done')!.textContent !== '')
}

test('opened from a folder it plays, shows its captions, and goes to its chapters and words', async () => {
  const { page, faults } = await openPage(browser, pathToFileURL(join(await packaged('plain'), 'index.html')).href)
  await page.waitForFunction(() => document.querySelector('video')!.readyState >= 2)
  expect(await page.title()).toBe('The bar <1>')
  await page.keyboard.press('t')
  const shown = () =>
    page.$eval('video', (video) =>
      [...(video.textTracks[0]!.activeCues ?? [])].map((cue) => (cue as VTTCue).getCueAsHTML().textContent),
    )
  const chapters = await page.$$eval('#chapters button', (all) => all.map((one) => one.textContent))
  expect(chapters).toEqual(['Bar', 'Water'])
  await (await page.$('#chapters li:nth-child(2) button'))!.click()
  await until(
    async () => (await shown()).join(' ').replace(/\s+/g, ' ').startsWith('Where the water is < 3 metres deep & white'),
    20,
  )
  await page.waitForSelector('#chapters li:nth-child(2) button[aria-current=true]')
  await page.keyboard.press('p')
  expect(await page.$eval('video', (video) => video.paused)).toBe(true)
  // Back to where the sentence before began, and on to the next one.
  const now = () => page.$eval('video', (video) => video.currentTime)
  const second = await page.$eval('#chapters li:nth-child(2) button', (one) =>
    Number((one as HTMLElement).dataset.time),
  )
  await page.keyboard.press('b')
  expect(await now()).toBeLessThan(second)
  await page.keyboard.press('n')
  expect(Math.abs((await now()) - second)).toBeLessThan(1)
  // Single letters can be switched off.
  await clickAt(page, '#keys')
  await page.keyboard.press('b')
  expect(Math.abs((await now()) - second)).toBeLessThan(1)
  await clickAt(page, 'summary')
  expect(await page.$eval('details', (one) => one.innerText)).toContain(WORDS[0])
  expect(faults).toEqual([])
  await page.close()
})

/** Plays about so much of the lesson, at twice its pace. */
async function watchPart(page: Page | Frame, share: number): Promise<void> {
  await page.waitForFunction(() => document.querySelector('video')!.readyState >= 2)
  await page.select('#speed', '2')
  await page.evaluate(() => document.querySelector('video')!.play())
  const isFar = (part: number) => {
    const video = document.querySelector('video')!
    return video.currentTime > part * video.duration
  }
  await page.waitForFunction(isFar, { polling: 100 }, share)
}

/** A visit with a browser that knows nothing of the ones before; `isOver` once the course site has heard of its end. */
async function visitBy(url: string, during: (page: Page) => Promise<unknown>, isOver = () => true): Promise<void> {
  const context = await browser.createBrowserContext()
  const { page, faults } = await openPage(context, url)
  await during(page)
  await page.goto('about:blank')
  // What is sent as a page goes arrives after it, as long as its browser is there.
  await until(async () => isOver())
  expect(faults).toEqual([])
  await context.close()
}

const lesson = (page: Page): Promise<Frame> =>
  until(async () => page.frames().find((frame) => frame.url().includes('/package/')))
const saysDone = (page: Page | Frame) => page.$eval('#done', (one) => one.textContent !== '')

test.each([
  ['scorm12', 'cmi.core.lesson_status'],
  ['scorm2004', 'cmi.completion_status'],
])(
  'in a course site by %s a lesson that is seen in several visits is completed, and stays so',
  async (standard, status) => {
    const site = await courseSite(await packaged(standard))
    let count = 0
    const visit = (during: (page: Page) => Promise<unknown>) => {
      count++
      return visitBy(site.url, during, () => site.data.get('ended') === count)
    }
    await visit(async (page) => watchPart(await lesson(page), 0.4))
    expect(site.data.get(status)).toBe('incomplete')
    await visit(async (page) => {
      const frame = await lesson(page)
      await frame.waitForFunction(() => document.querySelector('video')!.currentTime > 2)
      expect(await saysDone(frame)).toBe(false)
      await watchPart(frame, 0.7)
    })
    expect(site.data.get(status)).toBe('incomplete')
    await visit(async (page) => watch(await lesson(page)))
    expect(site.data.get(status)).toBe('completed')
    // Who comes once more and leaves at once takes nothing away.
    await visit(async (page) => {
      const frame = await lesson(page)
      await until(() => saysDone(frame))
    })
    expect(site.data.get(status)).toBe('completed')
    const told = site.wasSet.flatMap(({ name, value }) => (name === 'cmi.progress_measure' ? [Number(value)] : []))
    if (standard === 'scorm2004') expect(told.at(-1)).toBeGreaterThan(0.95)
    expect(told).toEqual([...told].sort((a, b) => a - b))
    site.close()
  },
)

test('opened from a folder, what was played is kept in the browser, until its data is cleared', async () => {
  const url = pathToFileURL(join(await packaged('plain'), 'index.html')).href
  const context = await browser.createBrowserContext()
  const visit = async (during: (page: Page) => Promise<void>) => {
    const { page } = await openPage(context, url)
    await during(page)
    await page.close({ runBeforeUnload: true })
  }
  await visit((page) => watchPart(page, 0.5))
  await visit(async (page) => {
    await page.waitForFunction(() => document.querySelector('video')!.currentTime > 2)
    await watch(page)
  })
  await visit(async (page) => void (await until(() => saysDone(page))))
  await context.close()
  await visitBy(url, async (page) => {
    await page.waitForFunction(() => document.querySelector('video')!.readyState >= 2)
    expect(await saysDone(page)).toBe(false)
  })
})

describe('in a course site by cmi5', () => {
  let site: Site
  let launches = 0
  const launch = () => {
    const query = new URLSearchParams({
      endpoint: `${site.url}/xapi/`,
      fetch: `${site.url}/token?launch=${++launches}`,
      actor: JSON.stringify({ objectType: 'Agent', account: { homePage: site.url, name: 'crew' } }),
      registration: '0d1f8a52-2f5e-4c3e-9a3c-6b8f4d7a1e20',
      activityId: 'urn:lesson:one',
    })
    return `${site.url}/package/index.html?${query}`
  }
  beforeAll(async () => {
    site = await courseSite(await packaged('cmi5'))
  })
  afterAll(() => site?.close())
  beforeEach(() => site.statements.splice(0))
  const verbs = () => site.statements.map(({ verb }) => verb.id.split('/').at(-1))
  const visit = (during: (page: Page) => Promise<unknown>) =>
    visitBy(launch(), during, () => verbs().includes('terminated'))

  test('what is seen in two visits is completed once, in the order that the standard asks for', async () => {
    await visit((page) => watchPart(page, 0.5))
    expect(verbs()).toEqual(['initialized', 'terminated'])
    site.statements.splice(0)
    await visit(watch)
    expect(verbs()).toEqual(['initialized', 'completed', 'terminated'])
    const completed = site.statements[1]!
    expect(completed.result?.completion).toBe(true)
    expect(completed.context.registration).toBe('0d1f8a52-2f5e-4c3e-9a3c-6b8f4d7a1e20')
    const categories = completed.context.contextActivities.category.map(({ id }) => id.split('/').at(-1))
    expect(categories).toEqual(['cmi5', 'moveon'])
    // Seen again, it is not completed again.
    site.statements.splice(0)
    await visit(async (page) => {
      await until(() => saysDone(page))
      await watchPart(page, 0.97)
    })
    expect(verbs()).toEqual(['initialized', 'terminated'])
  })

  test('who only looks it over completes nothing, and who wants no sound gets none', async () => {
    site.launchAs('Review')
    site.states.delete('visit')
    site.profiles.set('cmi5LearnerPreferences', JSON.stringify({ languagePreference: 'en', audioPreference: 'off' }))
    await visit(async (page) => {
      await page.waitForFunction(() => document.querySelector('video')!.muted)
      await watch(page)
    })
    expect(verbs()).toEqual(['initialized', 'terminated'])
    expect(site.states.has('visit')).toBe(false)
    site.profiles.clear()
    site.launchAs('Normal')
  })

  test('a page that is loaded anew after its visit was over says that it is not counted, and tells nothing more', async () => {
    await visit(async (page) => {
      await page.waitForSelector('.controls a')
      await page.reload()
      await page.waitForFunction(() => document.getElementById('done')!.textContent.startsWith('Open the lesson from'))
      await watchPart(page, 0.97)
    })
    expect(verbs()).toEqual(['initialized', 'terminated'])
  })

  test('the way back leads to where the course site wants it, and ends the visit', async () => {
    await visit(async (page) => {
      const link = await page.waitForSelector('.controls a')
      expect(await link!.evaluate((one) => one.textContent)).toBe('Back to the course')
      await Promise.all([page.waitForNavigation(), link!.click()])
      expect(await page.title()).toBe('All lessons')
    })
    expect(verbs()).toEqual(['initialized', 'terminated'])
  })
})

test('manifests are sound XML, and name what lies in the package', async () => {
  for (const [standard, manifest] of [
    ['scorm12', 'imsmanifest.xml'],
    ['scorm2004', 'imsmanifest.xml'],
    ['cmi5', 'cmi5.xml'],
  ] as const) {
    const names = await unpack(at(`${standard}.zip`), at(standard))
    expect(names).toContain(manifest)
    const text = await output('cat', [join(at(standard), manifest)])
    expect(text).toContain('The bar &lt;1&gt;')
    const named = [...text.matchAll(/<file href="([^"]+)"/g)].map(([, name]) => name)
    if (standard !== 'cmi5') expect(named.sort()).toEqual(names.filter((name) => name !== manifest).sort())
  }
})
