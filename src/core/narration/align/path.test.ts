import { reference, saying } from '@/core/testing/frames'
import { findPath, type TakeFrames } from './path'

const count = reference.word.length

const everything = (frames: number) => ({
  low: new Int32Array(frames),
  high: new Int32Array(frames).fill(count - 1),
})
const pathOf = (take: TakeFrames, beam: number) => [
  ...findPath(take, reference, everything(take.speech.length), beam).at,
]

/** Share of the spoken frames that are put within two frames of what they say. */
function found(path: readonly number[], said: readonly number[]): number {
  const spoken = said.flatMap((r, t) => (r >= 0 ? [Math.abs(path[t]! - r) <= 2] : []))
  return spoken.filter(Boolean).length / spoken.length
}

test('a straight reading is followed frame by frame', () => {
  const { take, said } = saying([[0, 360]])
  expect(found(pathOf(take, 400), said)).toBeGreaterThan(0.97)
})

test('a sentence that is left out is left out', () => {
  const { take, said } = saying([
    [0, 120],
    [240, 360],
  ])
  const path = pathOf(take, 400)
  expect(found(path, said)).toBeGreaterThan(0.97)
  expect(path.some((r) => r > 122 && r < 238)).toBe(false)
})

test('a sentence that breaks off and begins again is followed back', () => {
  const { take, said } = saying([
    [0, 120],
    [120, 230],
    [120, 360],
  ])
  expect(found(pathOf(take, 400), said)).toBeGreaterThan(0.97)
})

test('where the beam is narrower than the way back costs, it is searched without one', () => {
  const { take, said } = saying([
    [0, 120],
    [120, 230],
    [120, 360],
  ])
  const back = said.indexOf(120, said.indexOf(230 - 1))
  // From the second try on the band has only what is near it, as it has after a coarser pass.
  const band = everything(said.length)
  for (let t = back; t < said.length; t++) {
    band.low[t] = 120
    band.high[t] = Math.min(count - 1, 180 + t - back)
  }
  expect(found([...findPath(take, reference, band, 60).at], said)).toBeGreaterThan(0.97)
})
