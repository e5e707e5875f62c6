import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { pieces } from '@/bench/rideMaterial'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { hourLong } from '@/core/testing/hourLong'
import { layoutLesson } from '@/core/lesson/layout'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { integratedLoudness, stretchLoudness } from '@/core/measure/loudness'
import { EFFECTS } from '@/core/sounds/effects'
import { HOUSE_RATE, toSamples } from '@/core/units'
import { output, rawFile, scratch } from './support/application'
import {
  capturedSeconds,
  capturedSound,
  captureSound,
  chooseFiles,
  chooseOption,
  chooseSegment,
  clickAt,
  clickOn,
  retype,
  newLesson,
  savedLesson,
  storeLesson,
  waitForCaptured,
  waitForDialog,
  waitForSheet,
  waitForText,
  goTo,
} from './support/browser'
import { likeness } from './support/sound'
import { sharedSession } from './support/session'

/** Music, effects and their levels: set in the page, and heard in what is made of it. */

const session = sharedSession('')
const { lesson, lessonId, undoTo } = session
const folder = scratch()
let page: Page
beforeAll(async () => {
  page = session.page
  await chooseFiles(
    page,
    'first-files',
    rawFile('reading.mp3'),
    rawFile('easy-water.mp3'),
    rawFile('leaving-a-berth.pdf'),
  )
  await clickOn(page, 'Make the lesson')
  await waitForSheet(page)
  // A minute is enough of it, with some seconds of music alone at the end.
  const { lesson: made, revision } = await savedLesson(page)
  made.steps = made.steps.slice(0, 3)
  made.steps.at(-1)!.tail = 12
  await storeLesson(session.application.url, lessonId(), revision, made)
  await page.reload()
  await waitForSheet(page)
})

function levels(channels: Float32Array[]) {
  const meter = createEnergyMeter(HOUSE_RATE, channels.length)
  meter.push(channels)
  const track = meter.track()
  return { whole: integratedLoudness(track), within: (from: number, to: number) => stretchLoudness(track, from, to) }
}

test('an effect hung on a word sounds there, goes with its step, and is told when it has come loose', async () => {
  const before = await lesson()
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await chooseSegment(page, 'Sounds')
  await page.locator('[aria-label="Look for a sound"]').fill('two bells')
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="Library of sounds"] li').length === 1)
  const hang = await page.waitForSelector('[aria-label="Library of sounds"] li button:last-child')
  await hang!.click()
  await page.waitForFunction(() => document.body.innerText.includes('◆ Two bells'))
  const hung = await lesson()
  expect(hung.sounds).toHaveLength(1)
  const effect = EFFECTS.find(({ id }) => id === 'two-bells')!.make()
  const place = layoutLesson(hung).sounds[0]!.start
  expect(place).toBeGreaterThan(layoutLesson(hung).steps[1]!.start)
  const { sounds } = await session.mixed(folder, 'bells')
  // Where bell and words together would be too loud, the limiter bends it a little.
  expect(likeness(effect.slice(2400, HOUSE_RATE), sounds[0]!, toSamples(place) + 2400)).toBeGreaterThan(0.99)

  // Two steps earlier in the lesson: the bells come as much earlier as their step does.
  await clickAt(page, `[data-step="${before.steps[1]!.id}"] [title^="Click to select"]`)
  await page.keyboard.down('Alt')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.up('Alt')
  const moved = await lesson()
  const shift = layoutLesson(moved).steps[0]!.start - layoutLesson(hung).steps[1]!.start
  expect(layoutLesson(moved).sounds[0]!.start).toBeCloseTo(place + shift, 6)
  await page.keyboard.press('Delete')
  // The panel has shown the step since it was chosen.
  await chooseSegment(page, 'Sounds')
  await waitForText(page, '“Two bells” has come loose')
  expect((await lesson()).sounds).toHaveLength(1)
  await clickOn(page, 'Hang it on the caret')
  await page.waitForFunction(() => !document.body.innerText.includes('has come loose'))
  await undoTo(before)
})

test('a piece is made for the lesson, as long as it, and is heard under the whole of it', async () => {
  const before = await lesson()
  await page.keyboard.press('Home')
  await chooseSegment(page, 'Music')
  await clickOn(page, 'Make a piece…')
  await waitForDialog(page, 'Make a piece for this lesson')
  await chooseOption(page, 'Kind of piece', 'Harp')
  const started = Date.now()
  await clickOn(page, 'Listen to 15 seconds')
  await page.waitForFunction(
    () => [...document.querySelectorAll('button')].some((button) => button.textContent === 'Stop'),
    { polling: 50 },
  )
  console.log(`preview heard after ${Date.now() - started} ms`)
  await clickOn(page, 'Make it, from step 1 on')
  await page.waitForFunction(() => !document.querySelector('.ant-modal-wrap:not([style*="none"])'))
  const made = await lesson()
  const cue = made.bedCues.find(({ begins }) => begins.kind === 'step' && begins.step === made.steps[0]!.id)!
  const item = made.shelf.find(({ media }) => media === cue.media)!
  expect([item.title, item.licence]).toEqual([expect.stringContaining('Harp'), 'CC0 1.0'])
  const sound = await fetch(`${session.application.url}/api/media/${cue.media}/sound.f32`)
  const frames = (await sound.arrayBuffer()).byteLength / 8
  expect(frames / HOUSE_RATE).toBeCloseTo(layoutLesson(made).length, 1)
  const { bed } = await session.mixed(folder, 'made')
  // Music all the way: no second of it is silent, and the last one dies away.
  const { within } = levels(bed)
  const length = layoutLesson(made).length
  for (let second = 1; second < length - 4; second += 2) expect(within(second, second + 2)).toBeGreaterThan(-60)
  expect(within(length - 0.3, length)).toBeLessThan(within(length - 8, length - 4))
  const score = await page.evaluate(async () => {
    const wish = {
      kind: 'harp',
      mood: 'calm',
      tempo: 72,
      density: 0.4,
      key: 2,
      seed: 1,
      length: 60,
      sections: [{ kind: 'body', start: 0 }],
    }
    const response = await fetch(`/api/pieces/score?wish=${encodeURIComponent(JSON.stringify(wish))}`)
    return [...new Uint8Array(await response.arrayBuffer())].slice(0, 4)
  })
  expect(String.fromCharCode(...score)).toBe('MThd')
  await undoTo(before)
})

test('the pocket takes the middle out of the bed while the voice speaks, and only then', async () => {
  const before = await lesson()
  await clickOn(page, 'Balance')
  await waitForText(page, 'Worst moments')
  const plain = await session.mixed(folder, 'no-pocket')
  await clickAt(page, '[role=switch][aria-label="Voice pocket"]')
  await waitForText(page, '6 dB at')
  const { pocket } = await lesson()
  expect(pocket).toEqual({ on: true, depth: 6, nearer: 0 })
  const dipped = await session.mixed(folder, 'pocket')
  const timeline = layoutLesson(before)
  const spoken = timeline.passages.find(({ end, start }) => end - start > 8)!
  const [from, to] = [spoken.start + 3, spoken.start + 8]
  const band = async (name: string, hertz: number, start: number, end: number) => {
    // Steep enough that louder bands nearby don't count.
    const narrow = Array.from({ length: 4 }, () => `bandpass=f=${hertz}:width_type=o:w=0.5`).join()
    const filter = `atrim=${start}:${end},${narrow},volumedetect`
    const log = await output('ffmpeg', [
      '-hide_banner',
      '-i',
      join(folder, name, 'bed.wav'),
      '-af',
      filter,
      '-f',
      'null',
      '-',
    ])
    return Number(/mean_volume: (-?[\d.]+)/.exec(log)![1])
  }
  const change = async (hertz: number, start: number, end: number) =>
    (await band('pocket', hertz, start, end)) - (await band('no-pocket', hertz, start, end))
  const [middle, low] = [await change(1200, from, to), await change(160, from, to)]
  // Less of the middle than of what lies far from it; the ride makes up a little for all of it.
  expect(middle - low).toBeLessThan(-3.5)
  expect(middle - low).toBeGreaterThan(-7)
  const last = timeline.length
  expect(Math.abs((await change(1200, last - 3, last - 1)) - (await change(160, last - 3, last - 1)))).toBeLessThan(0.7)
  expect(levels(dipped.mix).whole).toBeCloseTo(levels(plain.mix).whole!, 0)

  // What that gives is spent: the music comes nearer by it, and goes back.
  await waitForText(page, 'LU nearer, as easy to follow')
  const told = await page.$eval('section[aria-label="Voice pocket"]', (one) => one.textContent!)
  const worth = Number(/Music ([\d.]+) LU nearer/.exec(told)![1])
  expect(worth).toBeGreaterThan(0.7)
  expect(worth).toBeLessThan(3)
  await clickOn(page, `Music ${worth.toFixed(1)} LU nearer, as easy to follow`)
  await waitForText(page, 'Take that back')
  expect((await lesson()).pocket.nearer).toBe(worth)
  const nearer = await session.mixed(folder, 'nearer')
  const louder = levels(nearer.bed).within(from, to) - levels(dipped.bed).within(from, to)
  expect(Math.abs(louder - worth)).toBeLessThan(0.7)
  await clickOn(page, 'Take that back')
  expect((await lesson()).pocket.nearer).toBe(0)
  await undoTo(before)
})

test('a stretch made softer by hand is so much softer, goes with its step, and back to computed undoes it', async () => {
  const before = await lesson()
  const { bed: plain } = await session.mixed(folder, 'by-computer')
  const at = layoutLesson(before).steps[2]!.start + 6
  // The playhead goes where the chart is clicked; here by the keyboard on the sheet.
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
  await clickAt(page, `[data-step="${before.steps[2]!.id}"] [title^="Click to select"]`)
  await clickOn(page, 'Balance')
  await waitForText(page, 'Worst moments')
  await clickOn(page, 'Softer here')
  await page.waitForSelector('[aria-label="Gain of the chosen points"]')
  const nudged = await lesson()
  expect(nudged.nudges.map(({ gain }) => gain)).toEqual([0, -6, -6, 0])
  const { bed } = await session.mixed(folder, 'by-hand')
  const change = (from: number, to: number) => levels(bed).within(from, to) - levels(plain).within(from, to)
  const start = layoutLesson(before).steps[2]!.start
  expect(change(start - 2, start + 2)).toBeCloseTo(-6, 0)
  expect(change(at + 8, at + 12)).toBeCloseTo(0, 0)
  await clickOn(page, 'Back to computed')
  expect((await lesson()).nudges).toEqual([])
  await undoTo(before)
})

test('comparing changes what is heard at once and leaves the lesson as it is', async () => {
  const before = await lesson()
  // Into the seconds of music alone at the end, where a ridden bed swells and one at one level does not.
  const chart = (await page.waitForSelector('[aria-label="Loudness of voice and music over the lesson"]'))!
  const box = (await chart.boundingBox())!
  const { length } = layoutLesson(before)
  const scale = (box.width - 70) / length
  await page.mouse.click(box.x + 52 + (length - 11) * scale, box.y + 100)
  await chooseSegment(page, 'Music', '[aria-label="What is heard"]')
  await clickOn(page, 'Play')
  await captureSound(page)
  await waitForCaptured(page, 1.5)
  const at = await capturedSeconds(page)
  await chooseSegment(page, 'One level')
  const changed = await capturedSeconds(page)
  await waitForCaptured(page, changed + 3)
  // It plays on to its end by itself.
  const sound = await capturedSound(page)
  const { within } = levels(sound)
  expect(within(at - 0.8, at) - within(changed + 2.2, changed + 3)).toBeGreaterThan(4)
  // Without a gap.
  for (let time = at - 0.5; time < changed + 2.9; time += 0.1) expect(within(time, time + 0.1)).toBeGreaterThan(-75)
  await chooseSegment(page, 'As set')
  await chooseSegment(page, 'All', '[aria-label="What is heard"]')
  expect(await lesson()).toEqual(before)
})

test('a track taken out of the mix is silent in it, and the rest is as loud as it must be', async () => {
  const before = await lesson()
  await clickOn(page, 'Sheet')
  await waitForSheet(page)
  await chooseSegment(page, 'Music')
  const mute = (await page.waitForSelector(
    '[role=switch][aria-label="Music in the mix"]',
  )) as ElementHandle<HTMLElement>
  await mute.evaluate((one) => one.click())
  const { bed, mix } = await session.mixed(folder, 'without-music')
  expect(bed[0]!.every((sample) => sample === 0)).toBe(true)
  expect(levels(mix).whole).toBeCloseTo(-16, 0)
  await undoTo(before)
})

test('a level typed in a field counts once, when the field is left', async () => {
  const before = await lesson()
  await chooseSegment(page, 'Music')
  const undoAt = () => page.$eval('[aria-label=Undo]', (one) => one.getBoundingClientRect().x)
  const place = await undoAt()
  const plain = await session.mixed(folder, 'level-before')
  const field = '[aria-label="Level of Music"]'
  await retype(page, field, '-12')
  expect((await lesson()).tracks.bed.gain).toBe(0)
  await page.keyboard.press('Tab')
  expect((await lesson()).tracks.bed.gain).toBe(-12)
  const softer = await session.mixed(folder, 'level-after')
  const { length } = layoutLesson(before)
  const change = (of: 'bed' | 'voice') =>
    levels(softer[of]).within(5, length - 10) - levels(plain[of]).within(5, length - 10)
  // What the whole gained by that is in voice and music alike.
  expect(Math.abs(change('bed') - change('voice') + 12)).toBeLessThan(0.2)
  // Beyond its bounds the nearest that goes is taken.
  await retype(page, field, '99')
  await page.keyboard.press('Tab')
  expect((await lesson()).tracks.bed.gain).toBe(24)
  // That the music covers the voice is counted, and moves nothing that somebody is about to press.
  await page.waitForSelector('nav[aria-label=Views] [aria-label*=finding]')
  expect(await undoAt()).toBe(place)
  for (let i = 0; i < 2; i++) await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('a piece fades out over the time that is typed', async () => {
  const before = await lesson()
  await chooseSegment(page, 'Music')
  await clickOn(page, 'more…')
  const fadeOver = async (seconds: number) => {
    await retype(page, '[aria-label="Fades out over"]', String(seconds))
    await page.keyboard.press('Tab')
    const { voice, bed } = await session.mixed(folder, `fade-${seconds}`)
    return { voice: levels(voice), bed: levels(bed) }
  }
  const hard = await fadeOver(0)
  const faded = await fadeOver(8)
  const { length } = layoutLesson(before)
  // Less music at the end makes the whole a little softer, which the mix makes up for: in voice and music alike.
  const gained = faded.voice.whole! - hard.voice.whole!
  expect(Math.abs(gained)).toBeLessThan(1)
  const change = (at: number) => faded.bed.within(at - 0.3, at + 0.3) - hard.bed.within(at - 0.3, at + 0.3) - gained
  expect(change(length - 9)).toBeCloseTo(0, 1)
  // Half way down in its middle, and gone at the end.
  expect(Math.abs(change(length - 4) + 6)).toBeLessThan(1.2)
  expect(change(length - 0.4)).toBeLessThan(-25)
  await page.keyboard.press('Escape')
  await undoTo(before)
})

test('sounds are copied, and hang on the caret as far apart as they were', async () => {
  const before = await lesson()
  // The sheet went along with what was played.
  await page.keyboard.press('Home')
  await chooseSegment(page, 'Sounds')
  const hang = async (step: string, sound: string) => {
    await clickAt(page, `[data-step="${step}"] [data-word="0"]`)
    await retype(page, '[aria-label="Look for a sound"]', sound)
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Library of sounds"] li').length === 1)
    await clickAt(page, '[aria-label="Library of sounds"] li button:last-child')
  }
  await hang(before.steps[0]!.id, 'two bells')
  await page.waitForFunction(() => document.querySelectorAll('[aria-label^="Choose "]').length === 1)
  await clickAt(page, '[aria-label^="Choose "]')
  await clickOn(page, 'Copy 1')
  await clickAt(page, `[data-step="${before.steps[1]!.id}"] [title^="Click to select"]`)
  await page.keyboard.down('Control')
  await page.keyboard.press('v')
  await page.keyboard.up('Control')
  const pasted = await lesson()
  expect(pasted.sounds).toHaveLength(2)
  const [first, second] = layoutLesson(pasted).sounds
  expect(second!.start).toBeGreaterThanOrEqual(layoutLesson(pasted).steps[1]!.start)
  const { sounds } = await session.mixed(folder, 'bells-twice')
  const heard = sounds[0]!.slice(toSamples(first!.start) + 2400, toSamples(first!.start) + HOUSE_RATE)
  expect(likeness(heard, sounds[0]!, toSamples(second!.start) + 2400)).toBeGreaterThan(0.99)
  await undoTo(before)
})

test('in a lesson of an hour a change is heard, and nothing drops out while it is planned', async () => {
  const short = await lesson()
  const put = hourLong(short)
  const id = await newLesson(session.application.url, put.title)
  await storeLesson(session.application.url, id, 1, put)
  await goTo(page, `${session.application.url}/lessons/${id}`)
  await waitForSheet(page)
  expect(layoutLesson(await lesson()).length).toBeGreaterThan(3300)
  await chooseSegment(page, 'Music')
  await clickOn(page, 'Play')
  await captureSound(page)
  await waitForCaptured(page, 2)
  const slider = await page.waitForSelector('[role=slider][aria-label="Clearance under the voice"]')
  await slider!.focus()
  for (let i = 1; i <= 4; i++) {
    await page.keyboard.press('ArrowRight')
    await waitForCaptured(page, 2 + 1.5 * i)
  }
  const [played] = await capturedSound(page)
  await clickOn(page, 'Pause')
  let [silent, longest] = [0, 0]
  for (const value of played!.slice(HOUSE_RATE)) {
    silent = value === 0 ? silent + 1 : 0
    longest = Math.max(longest, silent)
  }
  expect(played!.length / HOUSE_RATE).toBeGreaterThan(7)
  expect(longest / HOUSE_RATE).toBeLessThan(0.003)
  expect((await lesson()).targets.clearance).toBe(short.targets.clearance + 4)
})

test('music whose single strokes stand out is offered even strokes: in the mix they stand out less, and undo takes it back', async () => {
  const drums = join(folder, 'drums.wav')
  const { sound } = pieces().find(({ name }) => name === 'percussive')!
  await writeFile(drums, writeWav([sound], HOUSE_RATE))
  await goTo(page, session.application.url)
  await chooseFiles(page, 'first-files', rawFile('reading.mp3'), drums)
  await clickOn(page, 'Make the lesson')
  await waitForSheet(page)
  const before = await lesson()
  expect(before.bedCues).toHaveLength(1)
  await clickOn(page, 'Balance')
  await waitForText(page, 'Single strokes of this music stand out.')
  const plain = strokesIn(await session.mixed(folder, 'strokes'), before)
  await clickAt(page, '[role=switch][aria-label="Even strokes"]')
  expect((await lesson()).evenStrokes).toBe(true)
  const even = strokesIn(await session.mixed(folder, 'even'), before)
  expect(plain - even).toBeGreaterThan(1)
  await undoTo(before)
})

/** By how much the strongest strokes of the bed stand out of what is around them while somebody speaks (LU, 95th percentile). */
function strokesIn({ bed }: { bed: Float32Array[] }, of: Lesson): number {
  const { within } = levels(bed)
  const excess = layoutLesson(of).passages.flatMap(({ start, end }) => {
    const times = Array.from({ length: Math.max(0, Math.floor((end - start - 2) * 20)) }, (_, i) => start + 1 + i / 20)
    return times.map((time) => within(time, time + 0.1) - within(time - 0.7, time + 0.8))
  })
  return excess.sort((a, b) => a - b)[Math.floor(excess.length * 0.95)]!
}
