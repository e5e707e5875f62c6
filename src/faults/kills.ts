import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'
import { writeWav } from '@/core/formats/wav'
import { noise } from '@/core/testing/signals'
import { launchBrowser } from '@/demo/browser'
import { runProgram } from '@/media/process'
import { createClient, pause, until, type Client } from './client'

/** Kills parts of a running demo while it works, and looks whether anything was lost. */

export const VICTIMS = ['server', 'worker', 'postgres', 'tab'] as const
export type Victim = (typeof VICTIMS)[number]
const WORK = ['editing', 'uploading', 'importing', 'recording', 'rendering'] as const
type Work = (typeof WORK)[number]

/** A demo that runs, and the number of each of its parts now. */
export interface RunningDemo {
  url: string
  pidOf(part: Exclude<Victim, 'tab'>): number
}

export interface KillReport {
  kills: number
  /** Each a thing that must not be. */
  wrong: string[]
  /** Longest time until the application answered again. */
  slowestReturn: { seconds: number; victim: Victim }
}

/** A server or page that is not up again by then is not coming. */
const LONGEST_WAIT = 60_000 // ms
const LESSON = 'tide-table'

/** `upAgain`: seconds within which the application must answer again, where the machine's own pace is known. */
export async function killAndLook(
  demo: RunningDemo,
  count: number,
  random: () => number,
  { upAgain = Infinity, say = (_: string) => {} } = {},
) {
  const client = createClient(demo.url)
  const report: KillReport = { kills: 0, wrong: [], slowestReturn: { seconds: 0, victim: 'server' } }
  for (let i = 0; i < count; i++) {
    const victim = VICTIMS[i % VICTIMS.length]!
    const work = victim === 'tab' ? 'editing' : WORK[Math.floor(i / VICTIMS.length) % WORK.length]!
    const wrong = (what: string) => report.wrong.push(`kill ${i + 1}, ${victim} while ${work}: ${what}`)
    try {
      const seconds =
        victim === 'tab' ? await killTab(client, random) : await killPart(demo, client, victim, work, i, random)
      if (seconds > upAgain) wrong(`up again after ${seconds.toFixed(1)} s`)
      if (seconds > report.slowestReturn.seconds) report.slowestReturn = { seconds, victim }
      say(`${i + 1}/${count}: ${victim} while ${work}, up again after ${seconds.toFixed(1)} s`)
    } catch (error) {
      wrong((error as Error).message)
      say(report.wrong.at(-1)!)
    }
    report.kills++
  }
  return report
}

async function killPart(
  { pidOf }: RunningDemo,
  client: Client,
  victim: Exclude<Victim, 'tab'>,
  work: Work,
  serial: number,
  random: () => number,
): Promise<number> {
  const working = WORKS[work](client, serial)
  // What fails is told at the end; until then it is nobody's unhandled error.
  working.catch(() => {})
  await pause(100 + random() * (work === 'rendering' ? 6000 : 1500))
  process.kill(pidOf(victim), 'SIGKILL')
  const killed = performance.now()
  await until(async () => (await isUp(client.url)) || null, 'the application', LONGEST_WAIT)
  const seconds = (performance.now() - killed) / 1000
  await working
  return seconds
}

const isUp = (url: string) =>
  fetch(`${url}/api/health`, { signal: AbortSignal.timeout(2000) }).then(
    ({ ok }) => ok,
    () => false,
  )

const WORKS: Record<Work, (client: Client, serial: number) => Promise<void>> = {
  /** A save after the other; each that was confirmed is there, and none conflicts with itself. */
  async editing(client, serial) {
    let { lesson, revision } = await client.lesson(LESSON)
    for (let i = 0; i < 12; i++) {
      lesson = { ...lesson, title: `Reading a tide table ${serial}.${i}` }
      revision = await client.save(LESSON, revision, lesson)
      const stored = await client.lesson(LESSON)
      if (stored.revision !== revision || stored.lesson.title !== lesson.title)
        throw new Error(`saved as ${lesson.title}, and ${stored.lesson.title} is there`)
      await pause(120)
    }
  },

  async uploading(client, serial) {
    const bytes = soundFile(serial, 40)
    const status = await client.bringIn('long reading.wav', bytes)
    if (status.result?.media?.length !== 40 || status.result.media.bytes !== bytes.length)
      throw new Error(`the upload came out as ${JSON.stringify(status)}`)
    await sameSound(client, status.result.media.hash, serial, 40)
  },

  async importing(client, serial) {
    const status = await client.bringIn('reading.wav', soundFile(serial, 20))
    if (status.state !== 'done') throw new Error(`the import ended with ${status.error}`)
    await sameSound(client, status.result!.media!.hash, serial, 20)
  },

  async recording(client, serial) {
    const samples = samplesOf(serial, 30)
    const status = await client.record(LESSON, samples, 48_000)
    if (status.state !== 'done') throw new Error(`the recording ended with ${status.error}`)
    await sameSound(client, status.result!.media!.hash, serial, 30)
  },

  async rendering(client) {
    const { status, bytes } = await client.make(LESSON, 'sound')
    if (status.state !== 'done' || bytes.length !== status.result?.bytes)
      throw new Error(
        `the sound file ended as ${status.state}, ${bytes.length} of ${status.result?.bytes} bytes: ${status.error}`,
      )
    await decodes(bytes)
  },
}

const samplesOf = (serial: number, seconds: number) =>
  noise(48_000 * seconds, 1000 + serial).map((value) => value * 0.1)
const soundFile = (serial: number, seconds: number) => writeWav([samplesOf(serial, seconds)], 48_000)

/** The house sound of a file is sample by sample what was sent (24 bits of it). */
async function sameSound({ ask }: Client, media: string, serial: number, seconds: number): Promise<void> {
  const stored = new Float32Array(await (await ask(`/api/media/${media}/sound.f32`)).arrayBuffer())
  const sent = samplesOf(serial, seconds)
  if (stored.length !== sent.length) throw new Error(`${stored.length} of ${sent.length} samples are there`)
  for (let i = 0; i < sent.length; i += 101)
    if (Math.abs(stored[i]! - sent[i]!) > 1e-5) throw new Error(`sample ${i} is ${stored[i]}, and was ${sent[i]}`)
}

async function decodes(bytes: Uint8Array): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'yarn-step-kills-'))
  try {
    await writeFile(join(folder, 'made'), bytes)
    await runProgram('ffmpeg', ['-v', 'error', '-xerror', '-i', join(folder, 'made'), '-f', 'null', '-'], {
      limit: 120,
    })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** In a real browser: what the page called saved, or kept in the browser, is there at the next visit. */
async function killTab({ url, lesson }: Client, random: () => number): Promise<number> {
  const profile = await mkdtemp(join(tmpdir(), 'yarn-step-profile-'))
  const open = async () => {
    const browser = await launchBrowser(profile, {})
    const page = await browser.newPage()
    // As wide as it takes to have the settings beside the sheet.
    await page.setViewport({ width: 1280, height: 800 })
    await page.goto(`${url}/lessons/${LESSON}`)
    await page.waitForSelector('#step-script')
    return { browser, page }
  }
  try {
    const first = await open()
    await first.page.focus('#step-script')
    const word = `slack${Math.floor(random() * 1e6)}`
    await first.page.keyboard.type(` ${word}`)
    await first.page.waitForFunction(isKept, { polling: 50, timeout: LONGEST_WAIT }, word)
    // Whether it is saved by then, or only kept in this browser, is left to chance.
    await pause(random() * 500)
    endBrowser(first.browser)
    const killed = performance.now()
    const second = await open()
    const seconds = (performance.now() - killed) / 1000
    const shown = await second.page.$eval('#step-script', (one) => (one as HTMLTextAreaElement).value)
    await second.page.waitForFunction(() => document.querySelector('[data-save]')?.textContent === 'Saved', {})
    await second.browser.close()
    if (!shown.includes(word)) throw new Error(`"${word}" was typed, and the page shows "${shown}"`)
    const stored = (await lesson(LESSON)).lesson.steps[0]!.script
    if (!stored.includes(word)) throw new Error(`"${word}" was typed, and "${stored}" is stored`)
    return seconds
  } finally {
    await rm(profile, { recursive: true, force: true, maxRetries: 5 })
  }
}

/** In the page: whether what was typed is saved, or in a draft that this browser keeps. */
async function isKept(typed: string): Promise<boolean> {
  if (!document.querySelector<HTMLTextAreaElement>('#step-script')?.value.includes(typed)) return false
  if (document.querySelector('[data-save=saved]')) return true
  const drafts = await new Promise<unknown[]>((resolve, reject) => {
    const opening = indexedDB.open('yarn-step-drafts')
    opening.onerror = () => reject(opening.error)
    opening.onsuccess = () => {
      const asked = opening.result.transaction('drafts').objectStore('drafts').getAll()
      asked.onsuccess = () => resolve(asked.result)
      asked.onerror = () => reject(asked.error)
    }
  })
  return JSON.stringify(drafts).includes(typed)
}

const endBrowser = (browser: Browser) => browser.process()!.kill('SIGKILL')
