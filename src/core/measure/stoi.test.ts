import { seededRandom } from '@/core/random'
import { noise } from '@/core/testing/signals'
import { intelligibility, STOI_RATE } from './stoi'

/** Noise whose bands swell and sink like syllables, four times a second and each band by itself. */
function babble(seconds: number): Float32Array {
  const random = seededRandom(5)
  const out = new Float32Array(seconds * STOI_RATE)
  for (let band = 0; band < 12; band++) {
    const frequency = 200 * 1.3 ** band
    const [rate, phase] = [3 + 2 * random(), 2 * Math.PI * random()]
    for (let i = 0; i < out.length; i++) {
      const t = i / STOI_RATE
      out[i]! += 0.05 * (1 + Math.sin(2 * Math.PI * rate * t + phase)) * Math.sin(2 * Math.PI * frequency * t)
    }
  }
  return out
}

const mixed = (a: Float32Array, b: Float32Array, factor: number) => a.map((value, i) => value + factor * b[i]!)

test('the same sound is perfectly intelligible, at any level', () => {
  const speech = babble(4)
  expect(intelligibility(speech, speech)).toBeCloseTo(1, 6)
  expect(
    intelligibility(
      speech,
      speech.map((value) => value * 0.1),
    ),
  ).toBeCloseTo(1, 6)
})

test('noise lowers it the more the louder it is, and noise alone says less than any mixture', () => {
  const speech = babble(4)
  const hiss = noise(speech.length, 9)
  const values = [0.05, 0.3, 1.5].map((factor) => intelligibility(speech, mixed(speech, hiss, factor))!)
  expect(values[0]).toBeGreaterThan(0.9)
  expect(values[1]).toBeLessThan(values[0]! - 0.03)
  expect(values[2]).toBeLessThan(values[1]! - 0.1)
  // Not 0: where the words are silent, what is compared is clipped to them, so all noise is a little like them.
  expect(intelligibility(speech, hiss)!).toBeLessThan(values[1]!)
})

test('too little speech gives no figure', () => {
  expect(intelligibility(babble(0.3), babble(0.3))).toBeNull()
})
