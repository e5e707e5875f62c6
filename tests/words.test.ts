import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { readWav } from '@/core/formats/wav'
import { HOUSE_RATE } from '@/core/units'
import { LEAVING_A_BERTH } from '@/demo/leavingABerth'
import { headless, madeFile, rawFile, scratch } from './support/application'
import {
  chooseFiles,
  clickAt,
  clickOn,
  savedLesson,
  waitForSheet,
  waitForText,
  waitForWords,
  goTo,
} from './support/browser'
import { likeness, locate } from './support/sound'
import { sharedSession } from './support/session'

/** The voice handled as text: words at their times, cut, copied, put elsewhere; and the sound that comes of it. */

const session = sharedSession('')
const { lesson, lessonId } = session
const folder = scratch()
let page: Page
beforeAll(() => {
  page = session.page
})

async function voiceNow(): Promise<Float32Array> {
  await savedLesson(page)
  return readWav(await madeFile(session.application.url, lessonId(), 'voice-wav')).channels[0]!
}

interface ShownWord {
  text: string
  from: number
  to: number
}

/** The words of a row as they are shown, with their lesson times. */
const wordsOfRow = (row: number): Promise<ShownWord[]> =>
  page.$$eval(
    '[role=row]',
    (rows, index) =>
      [...rows[index]!.querySelectorAll<HTMLElement>('[data-word]')].map((word) => {
        const start = Number(word.closest<HTMLElement>('[data-start]')!.dataset.start)
        const { from, to } = word.dataset
        return { text: word.textContent!, from: start + Number(from), to: start + Number(to) }
      }),
    row,
  )

async function press(...keys: string[]): Promise<void> {
  for (const chord of keys) {
    const parts = chord.split('+')
    const last = parts.pop()!
    for (const key of parts) await page.keyboard.down(key as 'Shift')
    await page.keyboard.press(last as 'Enter')
    for (const key of parts.reverse()) await page.keyboard.up(key as 'Shift')
  }
}

async function wordAt(row: number, index: number): Promise<ElementHandle<HTMLElement>> {
  const rows = await page.$$('[role=row]')
  return (await rows[row]!.$(`[data-word="${index}"]`)) as ElementHandle<HTMLElement>
}

/** The sheet keeps only rows in sight; this one must be among them, and the first. */
const waitForRow = (row: number) =>
  page.waitForFunction(
    (wanted) =>
      document
        .querySelector('[role=row]')
        ?.getAttribute('aria-label')
        ?.startsWith(`Step ${wanted + 1},`),
    {},
    row,
  )

const samples = (seconds: number) => Math.round(seconds * HOUSE_RATE)

test('slides, a reading and its script become a lesson whose words stand where they are said', async () => {
  const script = join(folder, 'leaving.txt')
  await writeFile(script, LEAVING_A_BERTH.map(({ words }) => words).join('\n\n'))
  await chooseFiles(
    page,
    'first-files',
    rawFile('leaving-a-berth.pdf'),
    rawFile('reading.mp3'),
    rawFile('easy-water.mp3'),
    script,
  )
  await waitForText(page, 'script,')
  await clickOn(page, 'Make the lesson')
  await waitForSheet(page)
  const { steps } = await lesson()
  expect(steps.map((step) => step.script)).toEqual(LEAVING_A_BERTH.map(({ words }) => words))
  // Between two slides the reading pauses for 1.4 s: each step must begin after such a pause, shortly before its words.
  const { segments } = (await headless('speech', rawFile('reading.mp3'))) as {
    segments: { start: number; end: number }[]
  }
  const firsts = segments.filter(({ start }, i) => i === 0 || start - segments[i - 1]!.end > 1)
  steps.forEach(({ passages }, i) => {
    expect(firsts[i]!.start - passages[0]!.from).toBeGreaterThan(0)
    expect(firsts[i]!.start - passages[0]!.from).toBeLessThan(0.35)
  })
  await waitForWords(page)
  await page.waitForFunction(() => !document.body.innerText.includes('Finding the words in'))
  const guesses = await page.$$eval('[data-guess]', (all) => all.length)
  expect(guesses).toBeLessThan(5)
  // Every word is whole, and beside the next one; only what has no room is cut off.
  const badlySet = await page.$$eval('[data-line]', (lines) =>
    lines
      .flatMap((line) => {
        const shown = [...line.querySelectorAll<HTMLElement>('[data-word]')]
        return shown.filter((one, i) => {
          if (one.dataset.cut) return one.scrollWidth <= one.clientWidth
          const next = shown[i + 1]
          return next !== undefined && one.offsetLeft + one.offsetWidth > next.offsetLeft + 3
        })
      })
      .map((one) => one.textContent),
  )
  expect(badlySet).toEqual([])
  // Words are said within speech, one after the other.
  const words = await wordsOfRow(0)
  expect(words.map(({ text }) => text).join(' ')).toBe(LEAVING_A_BERTH[0]!.words)
  words.slice(1).forEach(({ from }, i) => expect(from).toBeGreaterThanOrEqual(words[i]!.from))
})

test('words that are deleted are gone from the sound and the script; the rest stays to the sample', async () => {
  const before = await lesson()
  const whole = await voiceNow()
  const words = await wordsOfRow(0)
  await press('Home', 'ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight', 'Delete')
  const after = await lesson()
  const text = before.steps[0]!.script.split(' ')
  expect(after.steps[0]!.script).toBe([...text.slice(0, 2), ...text.slice(4)].join(' '))
  const cut = await voiceNow()
  const gone = whole.length - cut.length
  // As much is missing as the two words last, within what the pauses around them allow.
  expect(gone / HOUSE_RATE).toBeGreaterThan((words[3]!.to - words[2]!.from) * 0.6)
  expect(gone / HOUSE_RATE).toBeLessThan(words[4]!.from - words[1]!.to + 0.15 + words[3]!.to - words[2]!.from)
  // Before the cut and after it the sound is what it was, moved up.
  expect(likeness(cut.subarray(0, samples(words[1]!.to)), whole, 0)).toBeGreaterThan(0.999)
  const later = samples(words[6]!.from)
  expect(likeness(cut.subarray(later - gone, later - gone + 2 * HOUSE_RATE), whole, later)).toBeGreaterThan(0.999)
  // And nothing clicks at the join: no step between two samples is larger than the voice itself makes.
  const steepest = (sound: Float32Array, from: number, to: number) => {
    let most = 0
    for (let i = from + 1; i < to; i++) most = Math.max(most, Math.abs(sound[i]! - sound[i - 1]!))
    return most
  }
  expect(steepest(cut, samples(words[1]!.from), samples(words[2]!.to))).toBeLessThanOrEqual(
    steepest(whole, 0, whole.length),
  )
  // The part that is left out can be heard again.
  await clickAt(page, '[aria-label$="seconds are left out here"]')
  await clickOn(page, 'Show it again')
  const shown = await lesson()
  expect(shown.steps[0]!.passages.map(({ from, to }) => [from, to])).toEqual(
    before.steps[0]!.passages.map(({ from, to }) => [from, to]),
  )
  for (let i = 0; i < 2; i++) await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('copied words sound again where they are put in', async () => {
  const before = await lesson()
  const whole = await voiceNow()
  const words = await wordsOfRow(0)
  await press('Home', 'Shift+ArrowRight', 'Shift+ArrowRight', 'Control+c')
  await press('End', 'Control+v')
  const after = await lesson()
  expect(after.steps.at(-1)!.script).toBe(
    `${before.steps[0]!.script.split(' ').slice(0, 2).join(' ')} ${before.steps.at(-1)!.script}`,
  )
  const sound = await voiceNow()
  const copied = whole.subarray(samples(words[0]!.from), samples(words[1]!.from))
  const { at, alike } = locate(copied, sound.subarray(samples(20)))
  expect(alike).toBeGreaterThan(0.99)
  expect(at).toBeGreaterThan(0)
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('words are selected across steps and cut as one; they sound again in another place', async () => {
  const before = await lesson()
  const whole = await voiceNow()
  await press('Home')
  await waitForRow(0)
  const [first, second] = [await wordsOfRow(0), await wordsOfRow(1)]
  const from = first.length - 2
  await (await wordAt(0, from))!.click()
  await page.keyboard.down('Shift')
  await (await wordAt(1, 1))!.click()
  await page.keyboard.up('Shift')
  expect(await page.$$eval('[data-word][aria-pressed]', (all) => all.map((one) => one.textContent))).toEqual(
    [...first.slice(from), ...second.slice(0, 2)].map(({ text }) => text),
  )
  await press('Control+x')
  const cut = await lesson()
  expect(cut.steps[0]!.script).toBe(before.steps[0]!.script.split(' ').slice(0, -2).join(' '))
  expect(cut.steps[1]!.script).toBe(before.steps[1]!.script.split(' ').slice(2).join(' '))
  await press('Home', 'Control+v')
  const put = await lesson()
  const words = [...before.steps[0]!.script.split(' ').slice(-2), ...before.steps[1]!.script.split(' ').slice(0, 2)]
  expect(put.steps[0]!.script).toBe([...words, cut.steps[0]!.script].join(' '))
  const sound = await voiceNow()
  for (const word of [first[from]!, second[0]!]) {
    const said = whole.subarray(samples(word.from + 0.03), samples(word.to))
    expect(locate(said, sound.subarray(0, samples(6))).alike).toBeGreaterThan(0.99)
  }
  for (let i = 0; i < 2; i++) await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('Enter between any two words starts the next step there, also in mid-sentence', async () => {
  await press('Home')
  const before = await lesson()
  await (await wordAt(0, 3))!.click()
  await press('Enter')
  const broken = await lesson()
  const text = before.steps[0]!.script.split(' ')
  expect(broken.steps[0]!.script).toBe(text.slice(0, 3).join(' '))
  expect(broken.steps[1]!.script.startsWith(text.slice(3).join(' '))).toBe(true)
  expect(broken.steps[0]!.passages[0]!.to).toBe(broken.steps[1]!.passages[0]!.from)
  // Gives back what Enter took.
  await press('Backspace')
  expect(await lesson()).toEqual(before)
})

test('the end of a step is dragged to another word, back into it and on into the next one', async () => {
  await press('Home')
  for (let i = 0; i < 3; i++) await clickOn(page, 'Smaller scale')
  const before = await lesson()
  const scripts = (of: typeof before) => of.steps.slice(0, 2).map(({ script }) => script)
  const dragEndTo = async (row: number, word: number) => {
    const [from, to] = [await page.waitForSelector('[aria-label^="End of the step"]'), await wordAt(row, word)]
    const [a, b] = [(await from!.boundingBox())!, (await to.boundingBox())!]
    await page.mouse.move(a.x + 1, a.y + a.height / 2)
    await page.mouse.down()
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 6 })
    await page.waitForSelector('[data-target]')
    await page.mouse.up()
  }
  const [first, second] = before.steps.map(({ script }) => script.split(' '))
  await dragEndTo(0, 6)
  expect(scripts(await lesson())).toEqual([first!.slice(0, 6).join(' '), [...first!.slice(6), ...second!].join(' ')])
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
  await dragEndTo(1, 3)
  const after = await lesson()
  expect(scripts(after)).toEqual([[...first!, ...second!.slice(0, 3)].join(' '), second!.slice(3).join(' ')])
  const spoken = (of: typeof before) =>
    of.steps.flatMap(({ passages }) => passages).reduce((sum, { from, to }) => sum + to - from, 0)
  expect(spoken(after)).toBeCloseTo(spoken(before), 6)
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
  for (let i = 0; i < 3; i++) await clickOn(page, 'Larger scale')
})

test('a word is corrected in place, and keeps its time', async () => {
  const before = await lesson()
  const [first] = await wordsOfRow(0)
  await (await wordAt(0, 0)).click({ count: 2 })
  await page.waitForSelector('input[aria-label^="Correct"]')
  await press('Control+a')
  await page.keyboard.type('Righto')
  await press('Enter')
  const after = await lesson()
  expect(after.steps[0]!.script.startsWith('Righto ')).toBe(true)
  expect(after.steps[0]!.passages).toEqual(before.steps[0]!.passages)
  const [corrected] = await wordsOfRow(0)
  expect(Math.abs(corrected!.from - first!.from)).toBeLessThan(0.35)
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('words are found, and a number goes to its step', async () => {
  const { steps } = await lesson()
  const wanted = steps[3]!.script.split(' ').slice(4, 7).join(' ').replace(/\W+$/, '')
  await press('Home', 'Control+f')
  await page.waitForSelector('[role=search] input')
  await page.keyboard.type(wanted)
  await press('Enter')
  await waitForText(page, '1 of 1')
  await page.waitForFunction(
    (id) => document.querySelector('[role=row][aria-selected=true]')?.getAttribute('data-step') === id,
    {},
    steps[3]!.id,
  )
  await press('Control+a')
  await page.keyboard.type('2')
  await press('Enter')
  await page.waitForFunction(
    (id) => document.querySelector('[role=row][aria-selected=true]')?.getAttribute('data-step') === id,
    {},
    steps[1]!.id,
  )
  await press('Escape')
})

test('a key pressed while the narration plays starts the next step at the pause close by', async () => {
  const before = await lesson()
  await press('Home')
  const words = await wordsOfRow(0)
  // The first pause inside the row.
  const pause = words.findIndex((word, i) => i > 0 && word.from - words[i - 1]!.to > 0.25)
  expect(pause).toBeGreaterThan(0)
  await clickOn(page, 'Play')
  await page.waitForFunction(
    (at) => {
      const now = document.querySelector<HTMLElement>('[data-now]')
      return now !== null && Number(now.dataset.from) >= at
    },
    { polling: 20 },
    words[pause]!.from,
  )
  await press('s')
  await clickOn(page, 'Pause')
  const after = await lesson()
  const text = before.steps[0]!.script.split(' ')
  expect(after.steps[0]!.script).toBe(text.slice(0, pause).join(' '))
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('what is heard is trimmed by dragging its edge', async () => {
  const before = await lesson()
  await (await wordAt(0, 0)).click()
  const handle = await page.waitForSelector('[aria-label="Beginning of what is heard"]')
  const box = (await handle!.boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.keyboard.down('Alt')
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 8, y, { steps: 4 })
  await page.mouse.up()
  await page.keyboard.up('Alt')
  const after = await lesson()
  expect(after.steps[0]!.passages[0]!.from - before.steps[0]!.passages[0]!.from).toBeCloseTo(0.1, 2)
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})

test('steps are copied into another lesson with all that belongs to them', async () => {
  const own = await lesson()
  const rows = await page.$$('[role=row] [title^="Click to select"]')
  await rows[1]!.click()
  await press('Shift+ArrowDown', 'Control+c')
  await goTo(page, `${session.application.url}/lessons/tide-table`)
  await waitForSheet(page)
  const before = await lesson()
  await press('Home', 'Control+v')
  const after = await lesson()
  expect(after.steps).toHaveLength(before.steps.length + 2)
  expect(after.steps.slice(1, 3).map(({ title, script }) => [title, script])).toEqual(
    own.steps.slice(1, 3).map(({ title, script }) => [title, script]),
  )
  const voice = await voiceNow()
  const source = await fetch(`${session.application.url}/api/media/${own.steps[1]!.passages[0]!.media}/sound.f32`)
  const take = new Float32Array(await source.arrayBuffer())
  const { from } = own.steps[1]!.passages[0]!
  const { alike } = locate(take.subarray(samples(from + 0.5), samples(from + 1.5)), voice.subarray(0, samples(30)))
  expect(alike).toBeGreaterThan(0.99)
  await clickOn(page, 'Undo')
  expect(await lesson()).toEqual(before)
})
