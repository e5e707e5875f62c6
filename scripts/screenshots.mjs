import { join } from 'node:path'
import puppeteer from 'puppeteer-core'
import { ROOT } from './application.mjs'

/** Takes the pictures in `docs/screenshots/` from the running demo: `node scripts/screenshots.mjs [NAME …]`. */

const url = `http://127.0.0.1:${process.env.PORT ?? 4310}`
const lesson = `${url}/lessons/crossing-the-bar`
const long = `${url}/lessons/tide-table`

const settled = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

async function open(page, address, text) {
  await page.goto(address)
  await page.waitForFunction((wanted) => document.body.innerText.includes(wanted), { timeout: 60_000 }, text)
  // The plan of the mix, and words found in takes.
  await settled(6000)
}

async function click(page, text) {
  const found = await page.evaluateHandle(
    (wanted) =>
      [...document.querySelectorAll('button, a, [role=tab], .ant-segmented-item')].find((one) =>
        one.textContent.trim().startsWith(wanted),
      ),
    text,
  )
  await found.asElement().click()
  await settled(1200)
}

const SHOTS = {
  home: (page) => open(page, url, 'Crossing the bar'),
  async 'first-lesson'(page) {
    await open(page, url, 'Coastal Skipper Basics')
    const input = await page.$('[data-testid="first-files"]')
    await input.uploadFile(
      ...['leaving-a-berth.pdf', 'reading.mp3', 'easy-water.mp3'].map((name) => join(ROOT, 'demo-files', name)),
    )
    await settled(15_000)
  },
  sheet: (page) => open(page, lesson, 'Look before you go'),
  async music(page) {
    await open(page, lesson, 'Look before you go')
    await click(page, 'Music')
  },
  async sounds(page) {
    await open(page, lesson, 'Look before you go')
    await click(page, 'Sounds')
  },
  async 'made-bed'(page) {
    await open(page, lesson, 'Look before you go')
    await click(page, 'Music')
    await click(page, 'Make a piece')
    await settled(1500)
  },
  async keys(page) {
    await open(page, lesson, 'Look before you go')
    await page.keyboard.press('?')
    await settled(1500)
  },
  async booth(page) {
    await open(page, `${lesson}/booth`, 'Look before you go')
    await click(page, '2Look before you go')
  },
  async 'clean-up'(page) {
    await open(page, `${lesson}/booth`, 'Look before you go')
    await click(page, 'Voice and clean-up')
    await click(page, 'Clean-up')
    await settled(3000)
  },
  async german(page) {
    const cookies = ['language=de', 'ground=dark'].map((one) => one.split('='))
    await page.setCookie(...cookies.map(([name, value]) => ({ name: `yarn-step-${name}`, value, url })))
    await open(page, lesson, 'Look before you go')
    await page.deleteCookie(...cookies.map(([name]) => ({ name: `yarn-step-${name}`, url })))
  },
  balance: (page) => open(page, `${long}/balance`, 'Reading a tide table'),
  async finish(page) {
    await open(page, `${lesson}/finish`, 'Is it ready?')
    if (!(await page.$('[data-export="done"]'))) await click(page, 'Make the video')
    await page.waitForSelector('[data-export="done"]', { timeout: 180_000 })
    await settled(1000)
  },
  async course(page) {
    await open(page, `${url}/courses/coastal`, 'Do the lessons sound alike?')
    await settled(6000)
  },
  async 'course-made'(page) {
    await open(page, `${url}/courses/coastal/make`, 'Reading a tide table')
    await page.click('[aria-label="What to make"] button.ant-btn-primary:not([disabled])').catch(() => {})
    await page.waitForFunction(() => document.body.innerText.includes('All of it is made'), { timeout: 180_000 })
  },
  async captions(page) {
    await open(page, lesson, 'Look before you go')
    await page.click('[data-step="c2"] [data-word="2"]')
    await click(page, 'Captions')
    await page.evaluate(() =>
      [...document.querySelectorAll('summary')].find((one) => one.textContent === 'Its captions').click(),
    )
    await page.waitForSelector('ol[aria-label="Captions of this step"] textarea')
    await page.$eval('ol[aria-label="Captions of this step"]', (one) => one.scrollIntoView({ block: 'center' }))
    await settled(2500)
  },
  async layers(page) {
    await open(page, long, 'Find place and date')
    await page.click('[data-kind=layer]')
    await settled(2500)
  },
}

const names = process.argv.slice(2)
const browser = await puppeteer.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream'],
  defaultViewport: { width: 1280, height: 800 },
})
for (const [name, take] of Object.entries(SHOTS)) {
  if (names.length > 0 && !names.includes(name)) continue
  const page = await browser.newPage()
  await take(page)
  await page.screenshot({ path: join(ROOT, 'docs', 'screenshots', `${name}.png`) })
  await page.close()
}
await browser.close()
