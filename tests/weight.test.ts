import { sharedSession } from './support/session'
import { goTo, waitForRest, waitForSheet } from './support/browser'

/** What a page weighs and what it does at rest are counted, not timed: they are the same on every machine. */

const session = sharedSession('/lessons/crossing-the-bar')
/** Compressed, as it comes over the line. */
const MOST = 450_000 // bytes

test('the script of the sheet is light; what few open comes when it is opened', async () => {
  const { page } = session
  await waitForSheet(page)
  const scripts = () =>
    page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .filter(({ name }) => new URL(name).pathname.endsWith('.js'))
        .map((one) => (one as PerformanceResourceTiming).encodedBodySize),
    )
  const sizes = await scripts()
  expect(sizes.length).toBeGreaterThan(10)
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThanOrEqual(MOST)
  await page.keyboard.press('?')
  await page.waitForSelector('[role=dialog]')
  expect((await scripts()).length).toBeGreaterThan(sizes.length)
})

test('a lesson that is not played draws nothing', async () => {
  const { page } = session
  await page.keyboard.press('Escape')
  await waitForRest(page)
  const layouts = async () => (await page.metrics()).LayoutCount!
  const before = await layouts()
  await new Promise((resolve) => setTimeout(resolve, 2000))
  // Each frame in which a text or a place is written counts one: a hundred and more.
  expect((await layouts()) - before).toBeLessThan(10)
})

test('no page tries what it is forbidden: text is never made into code', async () => {
  const { page } = session
  await page.evaluateOnNewDocument(() => {
    const tried: string[] = []
    Object.assign(globalThis, { tried })
    document.addEventListener('securitypolicyviolation', (event) =>
      tried.push(`${event.blockedURI} ${event.sourceFile}`),
    )
  })
  for (const path of ['/', '/lessons/crossing-the-bar']) {
    await goTo(page, new URL(path, page.url()).href)
    await waitForRest(page)
    expect(await page.evaluate(() => (globalThis as unknown as { tried: string[] }).tried)).toEqual([])
  }
})
