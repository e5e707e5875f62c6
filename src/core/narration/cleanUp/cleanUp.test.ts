import { analyse, speechLike } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { HOUSE_RATE, toDecibels, toFactor } from '@/core/units'
import { limitPlosives, limitSibilance } from './bandLimit'
import { BLEND, cleanVoice, cleanWhole, STRETCH } from './chain'
import { evenOut } from './levelling'
import { clickStretches, clippedStretches, repairClicks, repairClipping } from './repair'
import { NO_CLEAN_UP, type CleanUp } from './settings'
import { noiseSpectrum, reduceNoise } from './spectral'

const level = (samples: Float32Array, from = 0, to = samples.length / HOUSE_RATE): number => {
  let sum = 0
  const part = samples.subarray(Math.round(from * HOUSE_RATE), Math.round(to * HOUSE_RATE))
  for (const value of part) sum += value * value
  return 10 * Math.log10(sum / part.length)
}
const added = (a: Float32Array, b: Float32Array, factor = 1) => a.map((value, i) => value + (b[i] ?? 0) * factor)
const withPart = (part: Partial<CleanUp>): CleanUp => ({ ...NO_CLEAN_UP, ...part })
const untouched = (samples: Float32Array) => samples
const clean = (samples: Float32Array, part: Partial<CleanUp>) =>
  cleanVoice(samples, withPart(part), { level: -20, room: null, hum: null }, untouched)

test('hum goes with the hiss, where some was found', () => {
  const hum = { at: 50, multiples: [1], level: -40 }
  const humming = tones([[-40, 4]], 50)
  const cleaned = (on: boolean) =>
    cleanVoice(humming, withPart({ hiss: { on, amount: 12 } }), { level: -20, room: null, hum }, untouched)
  expect(level(cleaned(true), 2, 4)).toBeLessThan(level(humming, 2, 4) - 25)
  expect(cleaned(false)).toEqual(humming)
})

test('with everything off nothing changes', () => {
  const samples = noise(4800)
  expect(clean(samples, {})).toEqual(samples)
})

test('rumble: an octave below the corner is 24 dB down, a voice is untouched', () => {
  const rumble = { on: true, below: 80 }
  expect(level(clean(tones([[-6, 2]], 40), { rumble }), 1, 2) - level(tones([[-6, 2]], 40), 1, 2)).toBeCloseTo(-24.1, 0)
  expect(level(clean(tones([[-6, 2]], 400), { rumble }), 1, 2)).toBeCloseTo(level(tones([[-6, 2]], 400), 1, 2), 1)
})

test.each([
  ['body', 50, 6],
  ['clearness', 3000, 6],
  ['air', 18000, -6],
])('tone: %s lifts %d Hz by %d dB and leaves 800 Hz nearly alone', (band, hertz, gain) => {
  const tone = { on: true, body: 0, clearness: 0, air: 0, [band]: gain }
  const change = (frequency: number) =>
    level(clean(tones([[-12, 1]], frequency), { tone }), 0.5, 1) - level(tones([[-12, 1]], frequency), 0.5, 1)
  expect(Math.abs(change(hertz) - gain)).toBeLessThan(0.7)
  expect(Math.abs(change(800))).toBeLessThan(0.9)
})

test('sibilance: a loud s is held down, by no more than asked, and a vowel is not', () => {
  const s = tones([[-14, 1]], 7000)
  const held = level(limitSibilance(s, -20, 6), 0.2, 0.8) - level(s, 0.2, 0.8)
  expect(held).toBeLessThan(-4)
  expect(held).toBeGreaterThan(-6.3)
  const vowel = tones([[-14, 1]], 500)
  expect(level(limitSibilance(vowel, -20, 6))).toBeCloseTo(level(vowel), 1)
})

test('plosives: a puff of breath goes, the voice under it stays', () => {
  const voice = tones([[-20, 1]], 300)
  const puff = tones(
    [
      [-Infinity, 0.4],
      [-3, 0.1],
      [-Infinity, 0.5],
    ],
    40,
  )
  const out = limitPlosives(added(voice, puff), -20)
  expect(level(out, 0.42, 0.48)).toBeLessThan(level(added(voice, puff), 0.42, 0.48) - 8)
  expect(level(out, 0.1, 0.3)).toBeCloseTo(level(voice, 0.1, 0.3), 1)
})

test('hiss: noise that is known sinks by as much as asked, a voice over it stays', () => {
  const hiss = noise(3 * HOUSE_RATE).map((value) => value * toFactor(-50))
  const spectrum = noiseSpectrum([hiss])!
  const cleaned = reduceNoise(hiss, spectrum, 15)
  expect(level(cleaned, 1, 2) - level(hiss, 1, 2)).toBeLessThan(-14)
  expect(level(cleaned, 1, 2) - level(hiss, 1, 2)).toBeGreaterThan(-15.5)
  const voice = tones([[-14, 3]], 700)
  expect(level(reduceNoise(added(voice, hiss), spectrum, 15), 1, 2)).toBeCloseTo(level(voice, 1, 2), 1)
  expect(noiseSpectrum([])).toBeNull()
})

test('levelling: two sentences 12 dB apart come nearer, by about what is asked', () => {
  const voice = speechLike([
    [-14, 4],
    [null, 0.5],
    [-26, 4],
  ])
  const apart = (samples: Float32Array) => level(samples, 1.5, 3.5) - level(samples, 6, 8)
  const middle = (level(voice, 1.5, 3.5) + level(voice, 6, 8)) / 2
  expect(apart(voice)).toBeCloseTo(12, 0)
  expect(apart(evenOut(voice, middle, 0.5))).toBeCloseTo(6, 0)
  expect(apart(evenOut(voice, middle, 1))).toBeLessThan(1.5)
})

test('clipping: the tops of a tone are found, and rounded up to where they were', () => {
  const whole = tones([[0, 0.1]], 200)
  const clipped = whole.map((value) => Math.max(-0.8, Math.min(0.8, value)))
  // Twice a period for a tenth of a second of 200 Hz.
  expect(clippedStretches(clipped)).toHaveLength(40)
  const repaired = repairClipping(clipped)
  const middle = (samples: Float32Array) => samples.subarray(2400, 2640).reduce((max, value) => Math.max(max, value), 0)
  expect(middle(repaired)).toBeGreaterThan(0.93)
  expect(middle(repaired)).toBeLessThan(1.1)
  expect(clippedStretches(whole.map((value) => value * 0.9))).toEqual([])
  // An analysis tells where, too.
  expect(analyse([clipped]).clips.length).toBeGreaterThan(5)
  expect(analyse([whole.map((value) => value * 0.9)]).clips).toHaveLength(0)
})

test('clicks: one that stands out is drawn over; a voice has none', () => {
  const voice = speechLike([[-20, 1]]).map((value, i, all) => (value + (all[i - 1] ?? 0) + (all[i - 2] ?? 0)) / 3)
  const smooth = tones([[-20, 1]], 220)
  const clicked = smooth.slice()
  clicked[24000]! += 0.5
  expect(clickStretches(clicked)).toHaveLength(1)
  expect(toDecibels(Math.max(...added(repairClicks(clicked), smooth, -1).map(Math.abs)))).toBeLessThan(-35)
  expect(clickStretches(voice)).toHaveLength(0)
})

test('a long take is cleaned in stretches that join without a seam', async () => {
  const samples = tones([[-12, 65]], 110)
  const out: Float32Array[] = []
  const read = async (from: number, frames: number) => samples.slice(from, from + frames)
  const rumble = { on: true, below: 80 }
  await cleanWhole(
    samples.length,
    read,
    (part) => clean(part, { rumble }),
    async (part) => void out.push(part),
  )
  const joined = new Float32Array(samples.length)
  out.reduce((at, part) => {
    joined.set(part, at)
    return at + part.length
  }, 0)
  expect(out.reduce((sum, part) => sum + part.length, 0)).toBe(samples.length)
  const whole = clean(samples, { rumble })
  for (const seam of [STRETCH, 2 * STRETCH]) {
    for (let i = seam - 100; i < seam + BLEND + 100; i++) expect(Math.abs(joined[i]! - whole[i]!)).toBeLessThan(1e-4)
  }
})
