import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readScript } from '@/core/narration/words/script'
import { DEFAULT_READING } from '@/core/narration/speechVoice'
import { HOUSE_RATE } from '@/core/units'
import { folderObjects } from '../store/folderObjects'
import { openAssets, type Assets } from '../store/assets'
import { readAloud } from './reading'

let folder: string
let assets: Assets
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'yarn-step-pace-'))
  assets = openAssets(folderObjects(folder))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

const SPOKEN = `Never *ever* leave the *harbour* without a *chart*. The *rule* of twelfths *needs* care. *Always* look up the height of
the tide *before* you go, and *write* it down. Each day has four lines in the table. On each of them you find a time and a height.`
const WRITTEN = `International regulations concerning the prevention of collisions distinguish vessels under sail from those that are
driven by machinery. Instructors recommend that atmospheric pressure is considered immediately before every departure, and that
equipment for emergencies is examined at regular intervals.`
const read = (script: string, voice: string, rate: number, around?: string) =>
  readAloud(script, { ...DEFAULT_READING, voice, rate }, [], assets, { around })

test.each([
  ['spoken', 'espeak-ng:en-gb', 120, SPOKEN],
  ['spoken', 'espeak-ng:en-gb', 180, SPOKEN],
  ['written', 'espeak-ng:en-gb', 140, WRITTEN],
  ['spoken', 'flite:slt', 140, SPOKEN],
])('%s language by %s comes out at %d words a minute', async (_, voice, rate, script) => {
  const { words } = await read(script, voice, rate)
  const measured = (60 * words.length) / (words.at(-1)!.end - words[0]!.start)
  expect(Math.abs(measured / rate - 1)).toBeLessThan(0.05)
})

test('stressed words are louder and nothing is cut off', async () => {
  const { samples, words } = await read(SPOKEN, 'espeak-ng:en-gb', 140)
  const peak = (from: number, to: number) =>
    samples.subarray(from * HOUSE_RATE, to * HOUSE_RATE).reduce((max, value) => Math.max(max, Math.abs(value)), 0)
  expect(peak(0, samples.length)).toBeLessThan(0.95)
  const peaks = readScript(SPOKEN).words.map(({ stressed }, i) => ({
    stressed,
    peak: peak(words[i]!.start, words[i]!.end),
  }))
  const mean = (some: typeof peaks) => some.reduce((sum, one) => sum + one.peak, 0) / some.length
  const [loud, usual] = [true, false].map((which) => mean(peaks.filter(({ stressed }) => stressed === which)))
  expect(loud! / usual!).toBeGreaterThan(1.3)
})

test('the steps of a lesson are read at one pace, and a text too short to count at what is set', async () => {
  const sentence = 'Each day has four lines in the table.'
  const length = async (around?: string) => {
    const { words } = await read(sentence, 'espeak-ng:en-gb', 140, around)
    return words.at(-1)!.end
  }
  const alone = await length()
  expect(await length(SPOKEN)).toBeGreaterThan(alone * 1.08)
  expect(await length(sentence)).toBe(alone)
})
