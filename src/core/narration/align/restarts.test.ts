import { reference, saying } from '@/core/testing/frames'
import { withRestarts } from './restarts'

/** What a path looks like that has taken a stretch for one saying of a sentence: spread evenly over it. */
function takenForOne(said: readonly number[], from: number, to: number, first: number, end: number): Int32Array {
  const path = Int32Array.from(said)
  for (let t = from; t < to; t++) path[t] = first + Math.floor(((t - from) / (to - from)) * (end - first))
  return path
}

test('a try that broke off is parted from the sentence that was said after it', () => {
  const { take, said } = saying([
    [0, 120],
    [120, 170],
    [120, 240],
    [240, 360],
  ])
  const [broken, whole] = [said.indexOf(120), said.indexOf(120, said.indexOf(169))]
  const mended = withRestarts(takenForOne(said, broken, whole + 120, 120, 240), take, reference)
  const off = said.flatMap((r, t) => (r >= 0 && t >= whole && t < whole + 120 ? [Math.abs(mended[t]! - r)] : []))
  expect(off.filter((frames) => frames > 2)).toEqual([])
  // The try keeps the words it has.
  expect(Math.abs(mended[broken + 25]! - 145)).toBeLessThan(4)
})

test('other words before a sentence are none of the script', () => {
  const { take, said } = saying([
    [0, 120],
    [240, 300],
    [120, 240],
    [240, 360],
  ])
  const [aside, whole] = [said.indexOf(240), said.indexOf(120)]
  const mended = withRestarts(takenForOne(said, aside, whole + 120, 120, 240), take, reference)
  expect([...mended.subarray(aside, aside + 60)].every((r) => r < 0)).toBe(true)
  expect(Math.abs(mended[whole + 60]! - 180)).toBeLessThan(3)
})

test('a pause within a sentence stays one', () => {
  const { take, said } = saying([
    [0, 120],
    [120, 200],
    [200, 240],
    [240, 360],
  ])
  const path = Int32Array.from(said, (r, t) => (r >= 0 ? r : -2 - (said.findLast((one, i) => i < t && one >= 0) ?? -1)))
  expect(withRestarts(path, take, reference)).toEqual(path)
})
