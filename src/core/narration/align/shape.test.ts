import type { Reference } from './reference'
import { shapesOf } from './shape'
import type { Visit } from './visits'

/** Two sentences of 100 frames, five words each; after the third word of each is a comma. */
const reference = {
  word: Int32Array.from({ length: 200 }, (_, r) => Math.floor(r / 20)),
  punctuated: Array.from({ length: 10 }, (_, w) => w % 5 === 2),
} as unknown as Reference

const pauseAfter = (frame: number) => -2 - frame

/** A path through a take: stretches of the reference, and silences of so many frames after a reference frame. */
function walk(parts: readonly (readonly [from: number, to: number] | { silence: number; after: number })[]) {
  const path: number[] = []
  const speech: number[] = []
  for (const part of parts)
    if ('silence' in part)
      for (let t = 0; t < part.silence; t++) {
        path.push(pauseAfter(part.after))
        speech.push(0)
      }
    else
      for (let r = part[0]; r < part[1]; r++) {
        path.push(r)
        speech.push(1)
      }
  return {
    path: Int32Array.from(path),
    take: { features: new Float32Array(0), speech: Float32Array.from(speech), step: 1 },
  }
}
const visit = (from: number, to: number, first: number, last: number) => ({ from, to, first, last }) as Visit

test('a sentence between two pauses at the usual pace', () => {
  const { path, take } = walk([{ silence: 30, after: -1 }, [0, 100], { silence: 30, after: 99 }, [100, 200]])
  const [first, second] = shapesOf([visit(30, 130, 0, 100), visit(160, 260, 100, 200)], path, take, reference)
  expect(first).toEqual({ pace: 0, pauses: 2, hasSilence: false })
  expect(second).toEqual({ pace: 0, pauses: 2, hasSilence: false })
})

test('a silence within counts where no comma is, and not beside an edge', () => {
  const within = (after: number) => {
    const { path, take } = walk([[0, after + 1], { silence: 40, after }, [after + 1, 100]])
    return shapesOf([visit(0, 140, 0, 100)], path, take, reference)[0]!.hasSilence
  }
  // Too near to the end, after a comma, and neither.
  expect([99, 59].map(within)).toEqual([false, false])
  const { path, take } = walk([[0, 100], { silence: 40, after: 99 }, [100, 200]])
  expect(shapesOf([visit(0, 240, 0, 200)], path, take, reference)[0]!.hasSilence).toBe(true)
})

test('who goes on without a pause, and twice as fast, is told so', () => {
  const { path, take } = walk([[0, 100], [100, 200], { silence: 30, after: 199 }])
  const shapes = shapesOf(
    [visit(0, 100, 0, 100), visit(100, 150, 0, 100), visit(150, 200, 150, 200)],
    path,
    take,
    reference,
  )
  expect(shapes.map(({ pauses }) => pauses)).toEqual([1, 0, 1])
  expect(shapes[1]!.pace).toBeCloseTo(Math.log(0.5), 6)
})
