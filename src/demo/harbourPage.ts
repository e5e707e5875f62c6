import { writeFile } from 'node:fs/promises'
import type { Browser, Page } from 'puppeteer-core'
import type { Seconds } from '@/core/units'
import { runProgram, writeTo } from '@/media/process'
import { fontFace } from './slideHtml'

const FRAME_RATE = 10
const LENGTH = 13

/** When the port is chosen, the day, and the next high water marked. */
export const CLICKS: readonly Seconds[] = [2.6, 6.6, 9.6]

/** Films our own page of the made-up harbour: a pointer chooses the port and the day, and a row lights up. */
export async function recordHarbourPage(browser: Browser, projectFolder: string, out: string): Promise<void> {
  const page = await browser.newPage()
  await page.setViewport({ width: 1280, height: 720 })
  await page.setContent(harbourHtml(projectFolder))
  const args = [
    '-v',
    'error',
    '-y',
    '-f',
    'image2pipe',
    '-framerate',
    String(FRAME_RATE),
    '-c:v',
    'mjpeg',
    '-i',
    'pipe:0',
    '-vf',
    'fps=30,format=yuv420p',
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-crf',
    '18',
    '-movflags',
    '+faststart',
    out,
  ]
  await runProgram('ffmpeg', args, {
    limit: 300,
    feed: async (input) => {
      for (let frame = 0; frame < LENGTH * FRAME_RATE; frame++) {
        await act(page, frame / FRAME_RATE)
        await writeTo(input, await page.screenshot({ type: 'jpeg', quality: 92 }))
      }
    },
  })
  await page.close()
}

/** What the page looks like `time` seconds into the recording. */
async function act(page: Page, time: number): Promise<void> {
  await page.evaluate(
    (t, clicks) => {
      const stops = [
        [0, 900, 600],
        [2, 330, 205],
        [4.5, 330, 205],
        [6, 560, 205],
        [8, 560, 205],
        [9.5, 620, 415],
        [13, 620, 415],
      ] as const
      const next = Math.max(
        1,
        stops.findIndex(([at]) => at >= t),
      )
      const [[t0, x0, y0], [t1, x1, y1]] = [stops[next - 1]!, stops[next]!]
      const share = Math.min(1, Math.max(0, (t - t0) / (t1 - t0)))
      const eased = share * share * (3 - 2 * share)
      document.getElementById('pointer')!.style.transform =
        `translate(${x0 + (x1 - x0) * eased}px, ${y0 + (y1 - y0) * eased}px)`
      const [port, day, marked] = clicks
      document.body.classList.toggle('port', t > port!)
      document.body.classList.toggle('day', t > day!)
      document.body.classList.toggle('marked', t > marked!)
    },
    time,
    CLICKS,
  )
}

function harbourHtml(projectFolder: string): string {
  const rows = [
    ['04 12', '1.1 m', 'low'],
    ['10 31', '5.4 m', 'high'],
    ['16 40', '0.9 m', 'low'],
    ['22 55', '5.6 m', 'high'],
  ]
  return `<!doctype html><meta charset="utf-8"><style>
${fontFace(projectFolder, 400)}${fontFace(projectFolder, 700)}
* { box-sizing: border-box; margin: 0 }
body { font: 26px Demo; background: #eef3f4; color: #161d29 }
header { background: #12475a; color: white; padding: 30px 60px; font-size: 38px; font-weight: 700 }
.choice { display: inline-block; width: 210px; margin: 44px 0 40px 60px; padding: 16px 22px; background: white; border: 2px solid #9fb2bb; border-radius: 8px }
.choice + .choice { margin-left: 20px }
.choice b { visibility: hidden } .port .choice:nth-of-type(1) b, .day .choice:nth-of-type(2) b { visibility: visible }
table { margin-left: 60px; width: 900px; border-collapse: collapse; background: white; visibility: hidden } .day table { visibility: visible }
td, th { text-align: left; padding: 20px 26px; border-bottom: 2px solid #dbe4e7 } .marked tr.next td { background: #fde6bd; font-weight: 700 }
#pointer { position: fixed; left: 0; top: 0; width: 34px; height: 34px; border: 5px solid #b0204f; border-radius: 50%; background: #b0204f33 }
</style><header>Skerrow Harbour: tides</header><div class="choice"><b>Skerrow bar</b>&nbsp;</div><div class="choice"><b>12 June</b>&nbsp;</div>
<table><tr><th>Time</th><th>Height</th><th></th></tr>${rows.map((cells, i) => `<tr class="${i === 1 ? 'next' : ''}">${cells.map((cell) => `<td>${cell}</td>`).join('')}</tr>`).join('')}</table><div id="pointer"></div>`
}

/** Prints a page of slides to PDF. */
export async function printSlides(browser: Browser, html: string, out: string): Promise<void> {
  const page = await browser.newPage()
  await page.setContent(html)
  await page.evaluate(() => document.fonts.ready.then(() => undefined))
  await writeFile(
    out,
    await page.pdf({ width: '1920px', height: '1080px', printBackground: true, preferCSSPageSize: true }),
  )
  await page.close()
}
