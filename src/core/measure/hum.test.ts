import { noise } from '@/core/testing/signals'
import { removeHum } from '@/core/narration/cleanUp/hum'
import { HOUSE_RATE, toDecibels, toFactor } from '@/core/units'
import { findHum, togetherLongest, type Pause } from './hum'

const { PI, sin } = Math
type Tone = [hertz: number, level: number]
/** A quiet room with tones in it, each of so many dB (root mean square), from a place in a recording on. */
function room(from: number, frames: number, tones: Tone[], floor: number): Float32Array {
  const out = noise(frames, from + 5)
  for (let i = 0; i < frames; i++) out[i]! *= toFactor(floor) * Math.sqrt(3)
  for (const [hertz, level] of tones) {
    const [amplitude, step] = [Math.SQRT2 * toFactor(level), (2 * PI * hertz) / HOUSE_RATE]
    for (let i = 0; i < frames; i++) out[i]! += amplitude * sin(step * (from + i) + hertz)
  }
  return out
}
/** Pauses of .5 s, each 2 s after the one before. */
const pauses = (count: number, tones: Tone[], floor = -72): Pause[] =>
  Array.from({ length: count }, (_, i) => {
    const from = Math.round((2 * i + 0.7) * HOUSE_RATE)
    return { from, samples: room(from, HOUSE_RATE / 2, tones, floor) }
  })
const found = (tones: Tone[], floor?: number) => findHum(pauses(9, tones, floor))

test.each([
  [50.04, [1, 2, 3]],
  [59.93, [1, 2, 3]],
])('hum of %d Hz and its multiples is found, with its frequency and level', (at, multiples) => {
  const hum = found(multiples.map((k) => [k * at, -56]))!
  expect(Math.abs(hum.at - at)).toBeLessThan(0.015)
  expect(hum.multiples).toEqual(multiples)
  expect(hum.level).toBeCloseTo(-56 + 10 * Math.log10(3), 0)
})

test('the mains themselves are enough, a multiple alone may be anything', () => {
  expect(found([[50, -55]])).toMatchObject({ multiples: [1] })
  expect(found([[250, -55]])).toBeNull()
})

test.each<[string, Tone[], number | undefined]>([
  ['noise', [], -50],
  ['a fan', [[118, -50]], undefined],
  [
    'a low note',
    [
      [55, -50],
      [110, -52],
    ],
    undefined,
  ],
  [
    'what nobody hears',
    [
      [50, -85],
      [100, -85],
    ],
    -100,
  ],
])('%s is no hum', (_, tones, floor) => expect(found(tones, floor)).toBeNull())

test('too few pauses tell nothing', () => {
  expect(findHum(pauses(1, [[50, -50]]))).toBeNull()
  expect(findHum([])).toBeNull()
})

test('it is looked for in those 20 s that have most pauses', () => {
  const stretches = [
    [0, 3],
    [30, 35],
    [38, 44],
    [48, 60],
    [200, 210],
  ].map(([from, to]) => ({ from: from!, to: to! }))
  expect(togetherLongest(stretches)).toEqual([
    { from: 38, to: 44 },
    { from: 48, to: 58 },
  ])
  expect(togetherLongest([{ from: 5, to: 3000 }])).toEqual([{ from: 5, to: 25 }])
  expect(togetherLongest([])).toEqual([])
})

/** Once the filters have settled. */
const rms = (samples: Float32Array) => {
  const part = samples.subarray(2 * HOUSE_RATE)
  return toDecibels(Math.sqrt(part.reduce((sum, value) => sum + value * value, 0) / part.length))
}

test('what was found is taken out, a voice that glides stays', () => {
  const tones: Tone[] = [
    [50.04, -50],
    [100.08, -52],
    [150.12, -54],
  ]
  const facts = found(tones)!
  const hum = room(0, 6 * HOUSE_RATE, tones, -110)
  expect(rms(removeHum(hum, facts))).toBeLessThan(rms(hum) - 25)
  // A tone between 90 and 130 Hz, as low voices glide.
  let phase = 0
  const voice = new Float32Array(hum.length)
  for (let i = 0; i < voice.length; i++) {
    phase += (2 * PI * (110 + 20 * sin((2 * PI * 1.3 * i) / HOUSE_RATE))) / HOUSE_RATE
    voice[i] = 0.1 * sin(phase)
  }
  expect(Math.abs(rms(removeHum(voice, facts)) - rms(voice))).toBeLessThan(0.5)
})
