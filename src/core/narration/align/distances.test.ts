import { compileText } from '../../../../scripts/build-wasm.mjs'
import { noise } from '@/core/testing/signals'
import { createDistances } from './distances'
import { DISTANCES_MODULE } from './distancesModule'
import { FEATURES } from './features'

test('distances are those of Pythagoras', () => {
  const take = new Float32Array(2 * FEATURES)
  const reference = new Float32Array(3 * FEATURES)
  take[0] = 3
  reference[FEATURES - 1] = 4 // of frame 0
  reference[FEATURES] = 3 // of frame 1
  const distances = createDistances(take, reference, 3)
  expect([...distances(0, 0, 2)]).toEqual([5, 0, 3])
  expect([...distances(1, 1, 2)]).toEqual([3, 0])
})

test('every value of a frame counts, and no other', () => {
  const [take, reference] = [noise(40 * FEATURES, 1), noise(300 * FEATURES, 2)]
  const found = createDistances(take, reference, 300)(17, 5, 290)
  expect(found).toHaveLength(286)
  found.forEach((value, i) => {
    let sum = 0
    for (let d = 0; d < FEATURES; d++) sum += (take[17 * FEATURES + d]! - reference[(5 + i) * FEATURES + d]!) ** 2
    expect(value).toBeCloseTo(Math.sqrt(sum), 5)
  })
})

test('the module is the one its text says', async () => {
  expect(await compileText('src/core/narration/align/distances')).toBe(DISTANCES_MODULE)
})
