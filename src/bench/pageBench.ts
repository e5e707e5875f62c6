import { nanoid } from 'nanoid'
import puppeteer, { type KeyInput, type Page } from 'puppeteer-core'
import type { LessonDocument } from '@/core/lesson/document'
import { documentOf, tell } from '@/core/lesson/telling'
import { hourLong } from '@/core/testing/hourLong'
import { median, percentile } from './statistics'

/**
 * The sheet of a lesson of an hour in a browser, against the running demo (`npm run demo` in another window): how long an
 * edit takes to the changed screen, how smoothly the score scrolls, how soon the words are there, and what stays in memory.
 */
export async function measurePage(): Promise<void> {
  const url = `http://127.0.0.1:${process.env.PORT ?? 4310}`
  if (!(await fetch(url).catch(() => null))) return console.log('Start the demo first, in another window: npm run demo')
  const id = await makeHour(url)
  const browser = await puppeteer.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
  const page = await browser.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  await openSheet(page, `${url}/lessons/${id}`)
  console.log(`first words of 63 minutes, warm: ${(await openSheet(page, `${url}/lessons/${id}`)).toFixed(0)} ms`)
  await rest(6000)
  const edits = await measureEdits(page)
  for (const [name, times] of edits) tellTimes(`edit to changed screen, ${name}`, times)
  const all = edits.flatMap(([, times]) => times)
  tellTimes('edit to changed screen, all', all)
  await scrolling(page)
  await clearanceToSound(page)
  await memory(page)
  await browser.close()
  await fetch(`${url}/api/lessons/${id}`, { method: 'DELETE' })
}

const rest = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

async function makeHour(url: string): Promise<string> {
  const short = (await (await fetch(`${url}/api/lessons/tide-table`)).json()) as { lesson: LessonDocument }
  const lesson = documentOf(hourLong(tell(short.lesson)))
  const send = async (path: string, method: string, body: unknown) =>
    (await fetch(url + path, { method, body: JSON.stringify(body) })).json() as Promise<{ id: string }>
  const empty = { course: null, title: lesson.title, pictures: [], voices: [], music: [] }
  const { id } = await send('/api/lessons', 'POST', empty)
  await send(`/api/lessons/${id}`, 'PUT', { base: 1, save: nanoid(), lesson })
  return id
}

/** Milliseconds from the beginning of loading until the first words are in the page. */
async function openSheet(page: Page, address: string): Promise<number> {
  const watch = await page.evaluateOnNewDocument(() => {
    const look = () => {
      if (document.querySelector('[data-word]')) Object.assign(window, { firstWords: performance.now() })
      else requestAnimationFrame(look)
    }
    look()
  })
  await page.goto(address)
  const handle = await page.waitForFunction(() => (window as unknown as { firstWords?: number }).firstWords ?? false, {
    timeout: 120_000,
  })
  await page.removeScriptToEvaluateOnNewDocument(watch.identifier)
  return handle.jsonValue() as Promise<number>
}

interface EditTime {
  /** Of the main thread until the frame is drawn: the key's own work, then layout and painting. */
  work: number
  /** From the key to the frame. */
  frame: number
}

/** Each edit in the fifth step, so that nearly all of the lesson comes after it. */
async function measureEdits(page: Page): Promise<[string, EditTime[]][]> {
  await page.evaluate(() => {
    const times: { work: number; frame: number }[] = []
    Object.assign(window, { editTimes: times })
    addEventListener(
      'keydown',
      () => {
        const start = performance.now()
        let handled = 0
        queueMicrotask(() => (handled = performance.now()))
        requestAnimationFrame((began) => {
          const drawn = performance.now()
          const channel = new MessageChannel()
          channel.port1.onmessage = () => {
            const end = performance.now()
            times.push({
              work: Math.max(0, handled - start) + (end - Math.max(began, handled, start)),
              frame: end - start,
            })
          }
          channel.port2.postMessage(drawn)
        })
      },
      true,
    )
  })
  const keys: [string, KeyInput[]][] = [
    ['break', ['Enter']],
    ['undo', ['Control', 'z']],
    ['pause', ['p']],
    ['undo', ['Control', 'z']],
    ['move', ['Alt', 'ArrowDown']],
    ['undo', ['Control', 'z']],
    ['length', ['Control', 'y']],
    ['undo', ['Control', 'z']],
  ]
  const found = new Map<string, EditTime[]>()
  await page.keyboard.press('Home')
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown')
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  for (let round = 0; round < 10; round++)
    for (const [name, chord] of keys) {
      await page.evaluate(() => ((window as unknown as { editTimes: EditTime[] }).editTimes.length = 0))
      for (const key of chord.slice(0, -1)) await page.keyboard.down(key)
      await page.keyboard.press(chord.at(-1)!)
      for (const key of chord.slice(0, -1)) await page.keyboard.up(key)
      await rest(900)
      const times = await page.evaluate(() => (window as unknown as { editTimes: EditTime[] }).editTimes)
      found.set(name, [...(found.get(name) ?? []), ...times.slice(-1)])
    }
  return [...found]
}

function tellTimes(what: string, times: readonly EditTime[]): void {
  const [work, frame] = [times.map((one) => one.work), times.map((one) => one.frame)]
  console.log(
    `${what}: work median ${median(work).toFixed(1)} ms, to the frame median ${median(frame).toFixed(1)} ms, ` +
      `95 % within ${percentile(frame, 0.95).toFixed(0)} ms (${times.length} edits)`,
  )
}

async function scrolling(page: Page): Promise<void> {
  const { frames, longest } = await page.evaluate(async () => {
    const scroller = document.querySelector('[data-testid=score]')!
    let longest = 0
    const observer = new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) longest = Math.max(longest, duration)
    })
    observer.observe({ entryTypes: ['longtask'] })
    let frames = 0
    const start = performance.now()
    while (performance.now() - start < 5000) {
      scroller.scrollTop += 12
      await new Promise(requestAnimationFrame)
      frames++
    }
    observer.disconnect()
    return { frames: frames / 5, longest }
  })
  console.log(`scrolling: ${frames.toFixed(0)} frames a second, longest task ${longest.toFixed(0)} ms`)
}

/** From a key on the slider of the clearance, while the lesson plays, to the first sample that is played as it is now. */
async function clearanceToSound(page: Page): Promise<void> {
  await page.evaluate(() => {
    document.querySelector('[data-testid=score]')!.scrollTop = 0
    const music = [...document.querySelectorAll<HTMLElement>('.ant-segmented-item')].find(
      ({ textContent }) => textContent === 'Music',
    )!
    music.click()
  })
  await (await page.waitForSelector('[aria-label="Play"]'))!.click()
  const slider = (await page.waitForSelector('[role=slider][aria-label="Clearance under the voice"]'))!
  await page.evaluate(() => {
    const { node } = (window as unknown as { yarnStepOutput: { node: AudioWorkletNode } }).yarnStepOutput
    const heard = { stream: 0, pressed: 0, times: [] as number[] }
    node.port.addEventListener('message', ({ data }: MessageEvent<{ stream: number }>) => {
      if (data.stream !== heard.stream && heard.pressed) heard.times.push(performance.now() - heard.pressed)
      if (data.stream !== heard.stream) heard.pressed = 0
      heard.stream = data.stream
    })
    addEventListener('keydown', () => (heard.pressed = performance.now()), true)
    Object.assign(window, { heardTimes: heard.times })
  })
  await rest(3000)
  await slider.focus()
  for (let i = 0; i < 20; i++) {
    await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight')
    await rest(1500)
  }
  const times = await page.evaluate(() => (window as unknown as { heardTimes: number[] }).heardTimes)
  await (await page.waitForSelector('[aria-label="Pause"]'))!.click()
  console.log(
    `clearance changed while playing, to the sound: median ${median(times).toFixed(0)} ms, ` +
      `95 % within ${percentile(times, 0.95).toFixed(0)} ms (${times.length} changes)`,
  )
}

/** What 500 edits leave behind, once it has been swept. */
async function memory(page: Page): Promise<void> {
  const used = async () => {
    const client = await page.createCDPSession()
    await client.send('HeapProfiler.collectGarbage')
    await client.detach()
    return ((await page.metrics()).JSHeapUsedSize ?? 0) / 1e6
  }
  await page.evaluate(() => (document.querySelector('[data-testid=score]')!.scrollTop = 0))
  await rest(3000)
  const before = await used()
  for (let i = 0; i < 250; i++) {
    await page.keyboard.press('p')
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
  }
  await rest(6000)
  const after = await used()
  console.log(`memory: ${before.toFixed(0)} MB, after 500 edits ${after.toFixed(0)} MB`)
}
