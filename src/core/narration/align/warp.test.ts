import { seededRandom } from '@/core/random'
import { FEATURES } from './features'
import { meanDistance, reachWithin } from './warp'

/** Features that change slowly, as a mouth moves. */
function sayingOf(frames: number, seed: number): Float32Array {
  const random = seededRandom(seed)
  const out = new Float32Array(frames * FEATURES)
  for (let i = 0; i < out.length; i++) out[i] = (i < FEATURES ? 0 : 0.7 * out[i - FEATURES]!) + 2 * (random() - 0.5)
  return out
}
const cut = (saying: Float32Array, share: number) =>
  saying.slice(0, Math.round((saying.length / FEATURES) * share) * FEATURES)

test.each([0.8, 0.88, 0.94, 1])('a saying that breaks off at %f of another one reaches so far into it', (share) => {
  const whole = sayingOf(80, 3)
  const noise = sayingOf(80, 4)
  const again = cut(
    whole.map((value, i) => value + 0.2 * noise[i]!),
    share,
  )
  expect(reachWithin(again, whole)).toBeCloseTo(share, 1)
})

test('the same words are nearer than others, in whatever pace', () => {
  const whole = sayingOf(80, 3)
  const slower = new Float32Array(95 * FEATURES)
  for (let t = 0; t < 95; t++)
    slower.set(
      whole.subarray(Math.floor((t * 80) / 95) * FEATURES, (Math.floor((t * 80) / 95) + 1) * FEATURES),
      t * FEATURES,
    )
  expect(meanDistance(slower, whole)).toBeLessThan(0.5 * meanDistance(slower, sayingOf(80, 5)))
})
