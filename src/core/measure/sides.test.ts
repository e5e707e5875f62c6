import { seededRandom } from '@/core/random'
import { createSidesMeter, mended } from './sides'

const noise = (seed: number) => {
  const random = seededRandom(seed)
  return Float32Array.from({ length: 48_000 }, () => random() - 0.5)
}
const scaled = (sound: Float32Array, factor: number) => sound.map((value) => value * factor)
const faultOf = (left: Float32Array, right: Float32Array) => {
  const meter = createSidesMeter()
  meter.push(left, right)
  return meter.fault()
}
const [voice, hiss] = [noise(1), noise(2)]

test('a channel with nothing but the noise of its socket is found', () => {
  expect(faultOf(voice, scaled(hiss, 0.001))).toBe('left-only')
  expect(faultOf(scaled(hiss, 0.001), voice)).toBe('right-only')
  expect(mended('right-only', hiss, voice)).toBe(voice)
})

test('opposite polarity is found, also at another level, and put right', () => {
  const right = scaled(voice, -0.7)
  expect(faultOf(voice, right)).toBe('opposite')
  mended('opposite', voice, right).forEach((value, i) => expect(value).toBeCloseTo(0.85 * voice[i]!, 6))
})

test('what is as it should be is left alone', () => {
  expect(faultOf(voice, voice)).toBeNull()
  expect(faultOf(voice, hiss)).toBeNull()
  // Panned to one side, and a wide effect.
  expect(faultOf(voice, scaled(voice, 0.1))).toBeNull()
  expect(
    faultOf(
      voice,
      voice.map((value, i) => -0.8 * value + 0.5 * hiss[i]!),
    ),
  ).toBeNull()
  expect(faultOf(new Float32Array(100), new Float32Array(100))).toBeNull()
})
