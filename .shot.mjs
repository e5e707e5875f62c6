import puppeteer from 'puppeteer-core'
import { mkdtempSync } from 'node:fs'
const [,, url, out, ...steps] = process.argv
const wav = process.env.WAV
const browser = await puppeteer.launch({ executablePath: '/usr/bin/chromium', userDataDir: mkdtempSync('/tmp/ch-'), args: ['--headless','--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync','--use-fake-ui-for-media-stream','--use-fake-device-for-media-stream','--autoplay-policy=no-user-gesture-required', ...(wav ? [`--use-file-for-fake-audio-capture=${wav}%noloop`] : [])] })
const page = await browser.newPage()
await page.setViewport({ width: 1280, height: 800 })
page.on('console', (m) => { if (m.type() === 'error') console.log('console:', m.text().slice(0, 300)) })
page.on('pageerror', (e) => console.log('pageerror:', String(e).slice(0, 300)))
await page.goto(url, { waitUntil: 'networkidle2' })
await new Promise((r) => setTimeout(r, 1500))
for (const step of steps) {
  const [kind, ...rest] = step.split(':'); const arg = rest.join(':')
  if (kind === 'key') await page.keyboard.press(arg)
  else if (kind === 'text') await page.keyboard.type(arg)
  else if (kind === 'wait') await new Promise((r) => setTimeout(r, Number(arg)))
  else if (kind === 'click') { const el = await page.waitForSelector(arg, { timeout: 5000 }); await el.click() }
  else if (kind === 'shot') await page.screenshot({ path: arg })
  else if (kind === 'eval') console.log(JSON.stringify(await page.evaluate(arg)))
  await new Promise((r) => setTimeout(r, 500))
}
await page.screenshot({ path: out })
await browser.close()
