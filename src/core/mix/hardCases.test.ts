import { layoutLesson } from '@/core/lesson/layout'
import type { Lesson } from '@/core/lesson/document'
import { lessonOver, musicLike, SONG, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE, toFactor } from '@/core/units'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import { integratedLoudness, stretchLoudness } from '@/core/measure/loudness'
import { clearanceReadings, corridorShares } from './balanceSheet'
import { planMix } from './plan'
import { renderWhole } from './renderer'
import { momentsWithin, strokesWorth } from './strokesWorth'

/** Lessons in which a simple ride would go wrong; judged as any finished lesson is. */

type Part = readonly [level: number | null, length: number]

function planned(voice: Float32Array, music: Float32Array, change: (lesson: Lesson) => Lesson = (one) => one) {
  const bank = soundBank({ [TAKE]: [voice], [SONG]: [music] })
  const lesson = change(lessonOver([0, voice.length / HOUSE_RATE]))
  const timeline = layoutLesson(lesson)
  return { bank, lesson, timeline, ...planMix(lesson, timeline, bank.analysisOf) }
}
const worthOf = ({ lesson, timeline, levels, bank }: ReturnType<typeof planned>) =>
  strokesWorth(lesson, timeline, levels, bank.analysisOf)
const sharesOf = ({ levels }: ReturnType<typeof planned>) =>
  corridorShares(clearanceReadings(levels.voice, levels.bed, levels.speech), levels.clearance)

function expectHeld(shares: ReturnType<typeof sharesOf>): void {
  expect(shares.within!).toBeGreaterThanOrEqual(0.98)
  expect(shares.masked!).toBeLessThanOrEqual(0.005)
}
const sentences = (levels: readonly number[], length = 4): Part[] =>
  levels.flatMap((level): Part[] => [
    [level, length],
    [null, 0.7],
  ])

/** Louder and softer stretches of music, with two seconds between them in which it changes. */
function inSections(levels: readonly number[], length: number): Float32Array {
  const music = musicLike(levels.length * length, 0)
  return music.map((value, i) => {
    const time = i / HOUSE_RATE
    const index = Math.min(levels.length - 1, Math.floor(time / length))
    const next = levels[Math.min(levels.length - 1, index + 1)]!
    const share = Math.max(0, (time % length) - (length - 2)) / 2
    return value * toFactor(levels[index]! + (next - levels[index]!) * share)
  })
}

test('whispered and shouted sentences in one lesson', () => {
  const voice = speechLike([[null, 1], ...sentences([-8, -30, -10, -32, -8, -28]), [null, 1]])
  const { within, masked } = sharesOf(planned(voice, musicLike(34, -10)))
  // 22 dB up or down in a pause of 0.7 s is three times what a gain may move without being heard to move. The voice is
  // never masked for it: the music is already down when a whisper begins, and comes back slowly after.
  expect(masked!).toBeLessThanOrEqual(0.005)
  expect(within!).toBeGreaterThanOrEqual(0.93)
})

test('a take that is cut in the middle of a word, where its halves meet without a fade', () => {
  const voice = speechLike([[null, 1], ...sentences([-10, -14, -12, -10]), [null, 1]])
  const cut = 7.2153
  const take = { id: 'a', media: TAKE, pause: 0 }
  const { plan, levels } = planned(voice, musicLike(24, -10), (lesson) => ({
    ...lesson,
    steps: [
      { ...lesson.steps[0]!, passages: [{ ...take, from: 0, to: cut }] },
      { ...lesson.steps[0]!, id: 'second', passages: [{ ...take, id: 'b', from: cut, to: voice.length / HOUSE_RATE }] },
    ],
  }))
  expect(levels.voice.every((energy) => energy >= 0)).toBe(true)
  expect(levels.bed.every((energy) => energy >= 0)).toBe(true)
  const whole = levels.voice.map((energy, h) => energy + levels.bed[h]!)
  expect(integratedLoudness(whole)! + plan.gain).toBeCloseTo(-16, 1)
})

test('music with 20 dB between verse and chorus', () => {
  const voice = speechLike([[null, 1], ...sentences([-10, -12, -11, -10, -13, -10, -12, -11]), [null, 1]])
  expectHeld(sharesOf(planned(voice, inSections([-26, -6, -26, -6], 10))))
})

test('music that begins with silence', () => {
  const voice = speechLike([[null, 1], ...sentences([-10, -12, -11, -10]), [null, 1]])
  const music = musicLike(24, -10)
  music.fill(0, 0, 6 * HOUSE_RATE)
  const mix = planned(voice, music)
  expectHeld(sharesOf(mix))
  // Where nothing sounds, nothing is turned up beyond measure.
  expect(Math.max(...mix.plan.gains.bed!)).toBeLessThanOrEqual(12.001)
})

test('a voice that never pauses for three minutes', () => {
  const voice = speechLike([
    [null, 0.5],
    [-11, 180],
    [null, 0.5],
  ])
  expectHeld(sharesOf(planned(voice, musicLike(30, -9))))
})

test('music with speech in it is held under the voice like any other', () => {
  const voice = speechLike([[null, 1], ...sentences([-10, -12, -11, -10]), [null, 1]])
  const words = speechLike([...sentences([-12, -12, -12, -12, -12, -12], 3), [null, 2]], 9)
  const music = musicLike(24, -14).map((value, i) => value + (words[i] ?? 0))
  const shares = sharesOf(planned(voice, music))
  // Words in the music come and go faster than a gain may move: most of the time it is held, and never masks for long.
  expect(shares.within!).toBeGreaterThanOrEqual(0.9)
  expect(shares.masked!).toBeLessThanOrEqual(0.03)
})

test('a lesson without voice has its music at its own level, one without music its voice, both as loud as asked', async () => {
  const silent = planned(new Float32Array(8 * HOUSE_RATE), musicLike(8, -20), (lesson) => ({
    ...lesson,
    steps: lesson.steps.map((step) => ({ ...step, passages: [], length: { kind: 'fixed', length: 8 } })),
  }))
  expect(sharesOf(silent).within).toBeNull()
  expect(silent.plan.gains.bed!.every((gain) => gain === 0)).toBe(true)
  const alone = planned(speechLike(sentences([-14, -14])), musicLike(8, -20), (lesson) => ({ ...lesson, bedCues: [] }))
  expect(sharesOf(alone).within).toBeNull()
  for (const { plan, bank } of [silent, alone]) {
    let loudest = 0
    for await (const { sum } of renderWhole(plan, bank.source))
      for (const value of sum[0]) loudest = Math.max(loudest, Math.abs(value))
    expect(loudest).toBeGreaterThan(0.02)
    expect(loudest).toBeLessThan(1)
  }
})

test('a lesson of two seconds', async () => {
  const { plan, bank } = planned(
    speechLike([
      [null, 0.3],
      [-12, 1.4],
      [null, 0.3],
    ]),
    musicLike(12, -9),
    (lesson) => ({
      ...lesson,
      steps: lesson.steps.map((step) => ({ ...step, length: { kind: 'fixed', length: 2 } })),
    }),
  )
  let samples = 0
  for await (const { sum } of renderWhole(plan, bank.source)) {
    samples += sum[0].length
    expect(sum[0].every(Number.isFinite)).toBe(true)
  }
  expect(samples).toBe(2 * HOUSE_RATE)
})

test('where music was to be heard and is silent it counts as lost', () => {
  const voice = new Float32Array(2000).fill(1e-3) // 20 s
  const bed = new Float32Array(2000).fill(1e-5).fill(0, 1000)
  const speech = [
    { start: 0, end: 9.9 },
    { start: 10.4, end: 20 },
  ] // two sentences
  const shares = (music: { start: number; end: number }[]) =>
    corridorShares(clearanceReadings(voice, bed, speech, music), 20)
  expect(shares([{ start: 0, end: 20 }]).lost).toBeCloseTo(9.6 / 19.5, 2)
  // Beyond the music's end nothing was to be heard.
  expect(shares([{ start: 0, end: 10 }])).toMatchObject({ within: 1, lost: 0 })
})

/** A drum and a snare by turns over a soft note. */
function strokes(length: number): Float32Array {
  const { sin, exp, PI } = Math
  return Float32Array.from({ length: length * HOUSE_RATE }, (_, i) => {
    const t = i / HOUSE_RATE
    const beat = t % 0.6
    return 0.4 * exp(-beat * 14) * sin(2 * PI * 180 * beat) + 0.06 * sin(2 * PI * 196 * t)
  })
}

test('strokes that stand out are evened where it is asked for, by what was said it would bring', async () => {
  const voice = speechLike([[null, 1], ...sentences([-10, -14, -12, -10, -15, -12]), [null, 1]])
  const music = strokes(30)
  const [plain, even] = [false, true].map((evenStrokes) => planned(voice, music, (one) => ({ ...one, evenStrokes })))
  const worth = worthOf(plain!)!
  expect(worth.now).toBe(momentsWithin(plain!.levels))
  expect(worth.even).toBe(momentsWithin(even!.levels))
  expect(worth.even - worth.now).toBeGreaterThan(0.05)
  expect(worthOf(even!)).toBeNull()
  expectHeld(sharesOf(even!))
  // What was planned is what is heard: the strokes are evened in the bed as it is laid.
  const [laid, heard] = [createEnergyMeter(HOUSE_RATE, 2), createEnergyMeter(HOUSE_RATE, 2)]
  for await (const { bedRaw, tracks } of renderWhole(even!.plan, even!.bank.source)) {
    laid.push(bedRaw)
    heard.push(tracks.bed)
  }
  const off = (planned: LoudnessTrack, found: LoudnessTrack, at: number) =>
    stretchLoudness(found, at, at + 0.4) - stretchLoudness(planned, at, at + 0.4) - even!.plan.gain
  for (let at = 2; at < 26; at += 0.4) {
    expect(Math.abs(off(even!.levels.bedRaw, laid.track(), at))).toBeLessThan(0.3)
    expect(Math.abs(off(even!.levels.bed, heard.track(), at))).toBeLessThan(0.3)
  }
})
