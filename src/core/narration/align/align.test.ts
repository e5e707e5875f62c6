import { seededRandom } from '@/core/random'
import type { Hertz, Seconds } from '@/core/units'
import { spokenTime } from '@/core/measure/speech'
import { alignTake } from './align'
import type { Alignment } from './alignment'
import { BANDS, melOf } from './mel'
import { createReference } from './reference'

/**
 * A voice by formula: each word is three vowels with resonances of its own, so that two voices of different pitch say
 * the same words and every time is known.
 */
const RATE: Hertz = 16000
const [SENTENCES, WORDS, WORD]: [number, number, Seconds] = [8, 5, 0.36]

/** A vowel: harmonics of the pitch, louder near three resonances. */
function vowel(resonances: readonly Hertz[], pitch: Hertz, length: Seconds): Float32Array {
  const { sin, exp, PI, min } = Math
  const out = new Float32Array(Math.round(length * RATE))
  for (let hertz = pitch; hertz < 5500; hertz += pitch) {
    const weight = resonances.reduce((sum, one) => sum + exp(-(((hertz - one) / 180) ** 2)), 0.003)
    for (let i = 0; i < out.length; i++) out[i]! += 0.1 * weight * sin((2 * PI * hertz * i) / RATE)
  }
  const edge = 0.02 * RATE
  return out.map((value, i) => value * min(1, i / edge, (out.length - i) / edge))
}

const random = seededRandom(4)
const between = (low: number, high: number) => low + random() * (high - low)
/** The script's words, and as many that are in no script: those of sentences from SENTENCES on. */
const dictionary = Array.from({ length: 2 * SENTENCES * WORDS }, () =>
  Array.from({ length: 3 }, () => [between(250, 850), between(900, 2300), between(2400, 3800)]),
)
const word = (index: number, pitch: Hertz, tempo = 1) =>
  joined(dictionary[index]!.map((resonances) => vowel(resonances, pitch, (WORD / 3) * tempo)))

function joined(parts: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

const reference = createReference()
for (let s = 0; s < SENTENCES; s++)
  reference.add({
    samples: joined(Array.from({ length: WORDS }, (_, w) => word(s * WORDS + w, 110))),
    rate: RATE,
    starts: Array.from({ length: WORDS }, (_, w) => w * WORD),
    punctuated: Array.from({ length: WORDS }, (_, w) => w === WORDS - 1),
  })
const script = reference.finish()

/** Another voice, 15 % slower, says sentences (or so many of their words) with pauses between them, over some noise. */
function reading(said: readonly (readonly [sentence: number, words?: number])[]) {
  const hush = (length: Seconds) => new Float32Array(Math.round(length * RATE))
  const parts: Float32Array[] = [hush(0.5)]
  const words: { word: number; start: Seconds; end: Seconds }[] = []
  const speech: { start: Seconds; end: Seconds }[] = []
  let at = 0.5
  for (const [sentence, count = WORDS] of said) {
    const start = at
    for (let w = 0; w < count; w++) {
      const sound = word(sentence * WORDS + w, 190, 1.15)
      parts.push(sound)
      words.push({ word: sentence * WORDS + w, start: at, end: at + sound.length / RATE })
      at += sound.length / RATE
    }
    speech.push({ start, end: at })
    parts.push(hush(0.6))
    at += 0.6
  }
  const breath = seededRandom(8)
  const sound = joined(parts).map((value) => value + (breath() - 0.5) * 0.002)
  return { words, speech, take: { mel: melOf(sound, RATE), speech } }
}

const all = Array.from({ length: SENTENCES }, (_, s) => [s] as const)

test('every word of another voice is found where it is said', () => {
  const { words, take } = reading(all)
  const found = alignTake(take, script)
  expect(found.words.map((one) => one.word)).toEqual(words.map((one) => one.word))
  found.words.forEach(({ start, end }, i) => {
    expect(Math.abs(start - words[i]!.start)).toBeLessThan(0.06)
    expect(Math.abs(end - words[i]!.end)).toBeLessThan(0.06)
  })
  expect(found.extra).toEqual([])
})

test('a sentence left out is told, and those around it keep their places', () => {
  const { words, take } = reading(all.filter(([s]) => s !== 3))
  const found = alignTake(take, script)
  expect(found.sentences.map(({ status }) => status)).toEqual(all.map(([s]) => (s === 3 ? 'skipped' : 'spoken')))
  expect(found.words).toHaveLength(words.length)
  found.words.forEach(({ start }, i) => expect(Math.abs(start - words[i]!.start)).toBeLessThan(0.06))
})

test('of two tries the last one counts, and the first is told as one', () => {
  const { words, speech, take } = reading([[0], [1], [2, 4], [2], [3], [4], [5], [6], [7]])
  const found = alignTake(take, script)
  const second = words.findLast((one) => one.word === 2 * WORDS)!
  const spoken = found.sentences[2]!
  expect(spoken.status === 'spoken' && Math.abs(spoken.start - second.start)).toBeLessThan(0.06)
  expect(found.extra).toEqual([expect.objectContaining({ kind: 'retake', sentence: 2 })])
  expect(Math.abs(found.extra[0]!.start - speech[2]!.start)).toBeLessThan(0.1)
  expect(Math.abs(found.extra[0]!.end - speech[2]!.end)).toBeLessThan(0.15)
})

test.each([1, 2, 3])('a try that breaks off after %d words is not taken for the beginning of the next one', (count) => {
  const { words, take } = reading([[0], [1], [2], [3], [4, count], [4], [5], [6], [7]])
  const found = alignTake(take, script)
  const truth = words.findLast((one) => one.word === 4 * WORDS)!
  const spoken = found.sentences[4]!
  expect(spoken.status === 'spoken' && Math.abs(spoken.start - truth.start)).toBeLessThan(0.1)
  expect(found.sentences.every(({ status }) => status === 'spoken')).toBe(true)
})

/** Each sentence begins where one of its complete sayings does. */
function expectComplete(said: readonly (readonly [sentence: number, words?: number])[]): void {
  const { speech, take } = reading(said)
  for (const found of alignTake(take, script).sentences) {
    const whole = speech.filter((_, i) => said[i]![0] === found.sentence && (said[i]![1] ?? WORDS) === WORDS)
    const off = whole.map(({ start }) => (found.status === 'spoken' ? Math.abs(found.start - start) : Infinity))
    expect(Math.min(...off)).toBeLessThan(0.1)
  }
}

describe('a try that breaks off takes nothing from the complete one', () => {
  const cuts = [0, 3, 7].flatMap((sentence) => [1, 2, 3, 4].map((count) => [sentence, count] as const))
  const upTo = (sentence: number, count: number) => [
    ...Array.from({ length: sentence }, (_, s) => [s] as const),
    [sentence, count] as const,
  ]
  test.each(cuts)('after all, from the beginning to sentence %d, word %d', (sentence, count) =>
    expectComplete([...all, ...upTo(sentence, count)]),
  )
  test.each(cuts)('before all, to sentence %d, word %d', (sentence, count) =>
    expectComplete([...upTo(sentence, count), ...all]),
  )
  test('several in the middle', () =>
    expectComplete([[0], [1], [2, 2], [2, 4], [2], [3], [4], [4, 3], [5, 1], [5], [6], [7], [6, 4]]))
})

test('what is said is as sure with a script of which half is said as with one that is said wholly', () => {
  const sure = (said: readonly number[]) =>
    alignTake(reading(said.map((s) => [s])).take, script).sentences.flatMap((one) =>
      one.status === 'spoken' && one.sentence < SENTENCES / 2 ? [one.confidence] : [],
    )
  const [whole, half] = [sure(all.map(([s]) => s)), sure(all.map(([s]) => (s < SENTENCES / 2 ? s : SENTENCES + s)))]
  expect(half).toHaveLength(SENTENCES / 2)
  half.forEach((confidence, i) => expect(Math.abs(confidence - whole[i]!)).toBeLessThan(0.1))
})

const told = ({ extra }: Alignment, kind: string) =>
  extra.reduce((sum, one) => sum + (one.kind === kind ? one.end - one.start : 0), 0)

test('a script about something else is not believed, and all that is said is told', () => {
  const { speech, take } = reading(all.map(([s]) => [SENTENCES + s]))
  const found = alignTake(take, script)
  // Vowels by formula are more alike than people's: a sentence may pass by chance, a script may not.
  const believed = found.sentences.flatMap((one) => (one.status === 'spoken' ? [one.end - one.start] : []))
  expect(believed.length).toBeLessThanOrEqual(SENTENCES / 4)
  expect(told(found, 'retake')).toBe(0)
  const claimed = believed.reduce((sum, length) => sum + length, 0)
  expect(told(found, 'ad-lib') + claimed).toBeGreaterThan(0.95 * spokenTime(speech))
})

test('where a part of the script is about something else, the rest is found', () => {
  const { words, take } = reading(all.map(([s]) => [s === 3 || s === 4 ? SENTENCES + s : s]))
  const found = alignTake(take, script)
  expect(found.sentences.map(({ status }) => status === 'spoken')).toEqual(all.map(([s]) => s !== 3 && s !== 4))
  const own = words.filter(({ word: one }) => one < SENTENCES * WORDS)
  expect(found.words.map((one) => one.word)).toEqual(own.map((one) => one.word))
  expect(told(found, 'ad-lib')).toBeGreaterThan(0.9 * 2 * WORDS * WORD)
})

test('where nobody speaks nothing is found', () => {
  const found = alignTake({ mel: melOf(new Float32Array(RATE), RATE), speech: [] }, script)
  expect(found.words).toEqual([])
  expect(found.sentences.every(({ status }) => status === 'skipped')).toBe(true)
})

describe('spectra', () => {
  const tone = (hertz: Hertz) =>
    Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hertz * i) / RATE))
  const loudest = (mel: Float32Array, frame = 20) => {
    const bands = [...mel.subarray(frame * BANDS, (frame + 1) * BANDS)]
    return bands.indexOf(Math.max(...bands))
  }
  /** Band whose middle is nearest on the mel scale: 26 between 100 and 6800 Hz. */
  const bandOf = (hertz: Hertz) => {
    const mel = (value: Hertz) => 1127 * Math.log(1 + value / 700)
    return Math.round(((mel(hertz) - mel(100)) / (mel(6800) - mel(100))) * (BANDS + 1)) - 1
  }

  test.each([300, 800, 1500, 3000, 6000])('a tone of %d Hz stands in its band', (hertz) => {
    expect(loudest(melOf(tone(hertz), RATE))).toBe(bandOf(hertz))
  })

  test('a warp of 1.1 sees a voice 10 % higher as if it were not', () => {
    expect(loudest(melOf(tone(1650), RATE, 1.1))).toBe(loudest(melOf(tone(1500), RATE)))
  })

  test('ten times the power is one level more, by natural logarithm', () => {
    const [soft, loud] = [
      melOf(tone(1000), RATE),
      melOf(
        tone(1000).map((v) => v * Math.sqrt(10)),
        RATE,
      ),
    ]
    const at = 20 * BANDS + bandOf(1000)
    expect(loud[at]! - soft[at]!).toBeCloseTo(Math.log(10), 3)
  })
})
