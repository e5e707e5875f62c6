import { createHash } from 'node:crypto'
import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson } from '@/core/lesson/document'
import { newRecording } from '@/core/lesson/newParts'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { integratedLoudness } from '@/core/measure/loudness'
import { createTruePeakMeter } from '@/core/measure/truePeak'
import { DECK, lessonOver, musicLike, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { HOUSE_RATE, toDecibels } from '@/core/units'
import { applyGain, gainAt } from '@/core/bed/ride'
import { clearanceReadings, corridorShares } from './balanceSheet'
import { planMix } from './plan'
import { rideMotion } from './rideMotion'
import type { MixPlan } from './mixPlan'
import { RENDERER_EDITION, renderMix, renderWhole, type MixBlock, type Stereo } from './renderer'

const voice = speechLike([
  [null, 1],
  [-10, 4],
  [null, 0.6],
  [-16, 5],
  [null, 0.5],
  [-8, 4],
  [null, 5],
  [-10, 5],
  [null, 1],
])
const bank = soundBank({ [TAKE]: [voice], [SONG]: [musicLike(12, -8), musicLike(12, -9, 6)] })
const lesson = lessonOver([0, 5.3, 10.8, 17, 26.1])

const planned = (of: Lesson = lesson, from = bank) => planMix(of, layoutLesson(of), from.analysisOf)

let usual: ReturnType<typeof render> | undefined
const rendered = (of?: Lesson, from = bank) => (of ? render(of, from) : (usual ??= render(lesson, bank)))

async function render(of: Lesson, from: typeof bank, blockLength?: number) {
  return renderPlan(planned(of, from).plan, from, blockLength)
}

async function renderPlan(plan: MixPlan, from: typeof bank, blockLength?: number) {
  const blocks: MixBlock[] = []
  for await (const block of renderWhole(plan, from.source, {}, blockLength)) blocks.push(block)
  const joined = (pick: (block: MixBlock) => Stereo) =>
    [0, 1].map((c) => {
      const out = new Float32Array(plan.length)
      let at = 0
      for (const block of blocks) {
        out.set(pick(block)[c]!, at)
        at += block.sum[0].length
      }
      return out
    }) as Stereo
  return {
    sum: joined((b) => b.sum),
    voice: joined((b) => b.tracks.voice),
    bed: joined((b) => b.tracks.bed),
    recordings: joined((b) => b.tracks.recordings),
  }
}
const energies = (channels: Float32Array[]) => {
  const meter = createEnergyMeter(HOUSE_RATE, channels.length)
  meter.push(channels)
  return meter.track()
}
const peak = (channels: Float32Array[]) => {
  const meter = createTruePeakMeter(channels.length)
  meter.push(channels)
  return meter.peak()!
}

test('the mix has the loudness asked for and stays under the ceiling', async () => {
  const { sum } = await rendered()
  expect(integratedLoudness(energies(sum))!).toBeCloseTo(-16, 0)
  expect(peak(sum)).toBeLessThanOrEqual(-1)
})

test('the finished stems show the clearance while the voice speaks', async () => {
  const stems = await rendered()
  const readings = clearanceReadings(energies(stems.voice), energies(stems.bed), planned().levels.speech)
  const shares = corridorShares(readings, 16)
  expect(readings.length).toBeGreaterThan(150)
  expect(shares.within!).toBeGreaterThanOrEqual(0.98)
  expect(shares.masked!).toBeLessThanOrEqual(0.005)
})

test('the stems add up to the mix', async () => {
  const { sum, voice: v, bed, recordings } = await rendered()
  for (let i = 0; i < sum[0].length; i += 97)
    expect(v[0][i]! + bed[0][i]! + recordings[0][i]!).toBeCloseTo(sum[0][i]!, 5)
})

test('two renders are the same to the bit, however they are cut and wherever they begin', async () => {
  const whole = await rendered()
  const cut = await render(lesson, bank, 4800)
  const bytes = ({ buffer, byteOffset, byteLength }: Float32Array) => Buffer.from(buffer, byteOffset, byteLength)
  const same = (a: Float32Array, b: Float32Array) => bytes(a).equals(bytes(b))
  expect(same(cut.sum[0], whole.sum[0]) && same(cut.sum[1], whole.sum[1])).toBe(true)
  const { plan } = planned()
  const from = 9600 * 7
  const middle = await renderMix(plan, bank.source, from, 4800)
  expect(same(middle.sum[1], whole.sum[1].slice(from, from + 4800))).toBe(true)
})

test('a take cut over slides comes out uncut: the voice is the take times one factor', async () => {
  const quiet = { ...lesson, bedCues: [], targets: { ...lesson.targets, loudness: -30 } }
  const { sum } = await rendered(quiet)
  const at = voice.findIndex((value) => Math.abs(value) > 0.1)
  const factor = sum[0][at]! / voice[at]!
  for (let i = 2000; i < voice.length - 2000; i += 31) expect(sum[0][i]!).toBeCloseTo(voice[i]! * factor, 5)
})

test('the bed is looped when too short, ends with the pictures and fades out', async () => {
  const { bed } = await rendered()
  const level = (from: number, to: number) =>
    Math.max(...bed[0].slice(from * HOUSE_RATE, to * HOUSE_RATE).map(Math.abs))
  for (let t = 1; t < 24; t += 0.5) expect(level(t, t + 0.5)).toBeGreaterThan(0.001)
  expect(bed[0].length).toBe(Math.round(26.1 * HOUSE_RATE))
  expect(level(26.09, 26.1)).toBeLessThan(0.002)
})

test('without voice the music alone has the lesson loudness; without music the voice has', async () => {
  const still = { ...lesson, steps: lesson.steps.map((step) => ({ ...step, passages: [] })) }
  const { sum } = await rendered(still)
  expect(integratedLoudness(energies(sum))!).toBeCloseTo(-16, 0)
  const spoken = await rendered(lessonOver([0, 13, 26.1], false))
  expect(integratedLoudness(energies(spoken.sum))!).toBeCloseTo(-16, 0)
})

test('two takes of different level come out equally loud', async () => {
  const other = '4'.repeat(64)
  const loud = speechLike([[-6, 6]])
  const soft = loud.map((value) => value / 20)
  const two = soundBank({ [TAKE]: [loud], [other]: [soft] })
  const both = lessonOver([0, 6, 12], false)
  both.steps[1]!.passages = [{ id: 'q', media: other, from: 0, to: 6, pause: 0 }]
  const { sum } = await rendered(both, two)
  const half = 6 * HOUSE_RATE
  const [first, second] = [sum.map((c) => c.slice(0, half)), sum.map((c) => c.slice(half))]
  expect(integratedLoudness(energies(first))! - integratedLoudness(energies(second))!).toBeCloseTo(0, 1)
})

test("a recording's own sound is heard at its gain while its picture moves", async () => {
  const clip = soundBank({ [DECK]: [tones([[-20, 4]])] })
  const one = lessonOver([0, 1], false)
  one.steps[0] = {
    ...one.steps[0]!,
    passages: [],
    length: { kind: 'fixed', length: 6 },
    picture: { ...newRecording(DECK, 3), from: 1, gain: 0 },
  }
  const { recordings } = await rendered(one, clip)
  const level = (t: number) => Math.max(...recordings[0].slice(t * HOUSE_RATE, (t + 0.1) * HOUSE_RATE).map(Math.abs))
  expect(level(1)).toBeGreaterThan(0.05)
  expect(level(2.5)).toBe(0)
})

test('a peak of the voice does not move the music', async () => {
  const peaks = voice.slice()
  for (let t = 2; t < 25; t += 0.9)
    for (let i = 0; i < 40; i++) peaks[Math.round(t * HOUSE_RATE) + i]! += i % 2 ? 2.5 : -2.5
  const loud = soundBank({ [TAKE]: [peaks], [SONG]: [musicLike(26, -8)] })
  const { plan } = planned(lesson, loud)
  let [at, count, least] = [0, 0, 0]
  for await (const { tracks, bedRaw } of renderWhole(plan, loud.source)) {
    bedRaw[0].forEach((before, i) => {
      if (Math.abs(before) < 0.01) return
      const change = toDecibels(Math.abs(tracks.bed[0][i]! / before)) - gainAt(plan.gains.bed!, (at + i) / HOUSE_RATE)
      least = Math.min(least, change)
      count++
    })
    at += bedRaw[0].length
  }
  expect(count).toBeGreaterThan(100_000)
  // Every peak is limited by 5 dB and more.
  expect(least).toBeGreaterThan(-0.5)
})

test('what the pocket takes out of the music is no motion of its gain', async () => {
  const { targets } = lesson
  const withPocket = { ...lesson, targets: { ...targets, clearance: 6 }, pocket: { on: true, depth: 12, nearer: 0 } }
  // Within its reach and out of it by turns.
  const low = tones([[-12, 26]], 150)
  const high = noise(HOUSE_RATE * 26, 3)
  const song = low.map((value, i) => ((i / HOUSE_RATE) % 2 < 1 ? value : 0.3 * high[i]!))
  const hissing = soundBank({ [TAKE]: [voice], [SONG]: [song] })
  const { plan, levels } = planned(withPocket, hissing)
  const meters = [createEnergyMeter(HOUSE_RATE, 2), createEnergyMeter(HOUSE_RATE, 2), createEnergyMeter(HOUSE_RATE, 2)]
  for await (const { tracks, bedUngained, bedRaw } of renderWhole(plan, hissing.source))
    [tracks.bed, bedUngained, bedRaw].forEach((stem, i) => meters[i]!.push(stem))
  const [bed, ungained, raw] = meters.map((meter) => meter.track())
  // By the gain itself.
  const moved = applyGain(new Float32Array(bed!.length).fill(1), plan.gains.bed!)
  const { turns } = rideMotion(new Float32Array(bed!.length).fill(1), moved, levels.speech)
  expect(rideMotion(ungained!, bed!, levels.speech).turns).toBeCloseTo(turns, 1)
  expect(rideMotion(raw!, bed!, levels.speech).turns).toBeGreaterThan(turns + 1)
})

/** What came out of each edition of the renderer, to 16 bit. */
const CAME_OUT: Record<number, string> = { 2: '383aa94638b67073' }

test('the same plan gives the samples it gave before, or another edition of the renderer', async () => {
  const { plan } = planned()
  // However the ride is reckoned: the way of this one is made up.
  const bed = plan.gains.bed!.map((_, i) => -14 + 4 * Math.sin(i / 30))
  const { sum } = await renderPlan({ ...plan, gains: { ...plan.gains, bed }, gain: 4 }, bank)
  const hash = createHash('sha256')
  for (const channel of sum) hash.update(Int16Array.from(channel, (value) => Math.round(value * 32767)))
  expect(hash.digest('hex').slice(0, 16)).toBe(CAME_OUT[RENDERER_EDITION])
})
