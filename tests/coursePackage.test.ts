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
}, 120_000)
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
  await page.waitForFunction(() => document.getElementById('done')!.textContent !== '', { timeout: 60_000 })
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

test.each([
  ['scorm12', 'cmi.core.lesson_status', 'cmi.core.lesson_location'],
  ['scorm2004', 'cmi.completion_status', 'cmi.location'],
])(
  'in a course site by %s it reports its place, and that it was watched',
  async (standard, status, place) => {
    const site = await courseSite(await packaged(standard))
    const { page } = await openPage(browser, site.url)
    const data = () => page.evaluate(() => (window as unknown as { data: Record<string, string | number> }).data)
    const inside = () => until(async () => page.frames().find((frame) => frame.url().includes('/package/')))
    let frame = await inside()
    await frame.waitForFunction(() => document.querySelector('video')!.readyState >= 2)
    expect(await data()).toMatchObject({ begun: 1, [status]: 'incomplete' })
    // Somebody leaves in the middle, and comes back.
    await frame.$eval('video', (video) => void (video.currentTime = 3))
    await page.reload()
    expect(await data()).toMatchObject({ [status]: 'incomplete', ended: 1 })
    expect(Number((await data())[place])).toBeCloseTo(3, 0)
    frame = await inside()
    await frame.waitForFunction(() => document.querySelector('video')!.currentTime > 2.5)
    await frame.$eval('video', (video) => void (video.currentTime = 0))
    await watch(frame)
    expect(await data()).toMatchObject({ [status]: 'completed' })
    await page.close()
    site.close()
  },
  180_000,
)

test('in a course site by cmi5 it says what happened in the order that the standard asks for', async () => {
  const site: Site = await courseSite(await packaged('cmi5'))
  const query = new URLSearchParams({
    endpoint: `${site.url}/xapi/`,
    fetch: `${site.url}/token`,
    actor: JSON.stringify({ objectType: 'Agent', account: { homePage: site.url, name: 'crew' } }),
    registration: '0d1f8a52-2f5e-4c3e-9a3c-6b8f4d7a1e20',
    activityId: 'urn:lesson:one',
  })
  const { page } = await openPage(browser, `${site.url}/package/index.html?${query}`)
  await watch(page)
  await page.goto('about:blank')
  const verbs = () => site.statements.map(({ verb }) => verb.id.split('/').at(-1))
  await until(async () => verbs().includes('terminated'))
  expect(verbs()).toEqual(['initialized', 'completed', 'terminated'])
  const completed = site.statements[1]!
  expect(completed.result?.completion).toBe(true)
  expect(completed.context.registration).toBe('0d1f8a52-2f5e-4c3e-9a3c-6b8f4d7a1e20')
  const categories = completed.context.contextActivities.category.map(({ id }) => id.split('/').at(-1))
  expect(categories).toEqual(['cmi5', 'moveon'])
  expect(site.states.has('place')).toBe(true)
  await page.close()
  site.close()
}, 180_000)

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
