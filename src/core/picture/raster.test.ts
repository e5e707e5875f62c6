import { compileText } from '../../../scripts/build-wasm.mjs'
import { closer, dissolved, veiled } from './blending'
import { PIXELS_MODULE } from './pixelsModule'
import { blockOut, layOver, pushed, type Raster } from './raster'

const rasterOf = (width: number, height: number, colour: (x: number, y: number) => number[]): Raster => ({
  width,
  height,
  data: Uint8Array.from(
    Array.from({ length: width * height }, (_, i) => colour(i % width, Math.floor(i / width))).flat(),
  ),
})
const at = ({ data, width }: Raster, x: number, y: number) => [...data.subarray((y * width + x) * 3).subarray(0, 3)]
const black = rasterOf(8, 4, () => [0, 0, 0])
const white = rasterOf(8, 4, () => [255, 255, 255])

test('what is laid over covers as far as it is there, and is cut at the edges', () => {
  const raster = rasterOf(8, 4, () => [0, 0, 0])
  const data = Uint8Array.from(Array.from({ length: 9 }, () => [200, 100, 0, 255]).flat())
  layOver(raster, { x: -1, y: 2, width: 3, height: 3, data }, 0.5)
  expect(at(raster, 0, 2)).toEqual([100, 50, 0])
  expect(at(raster, 1, 3)).toEqual([100, 50, 0])
  expect(at(raster, 2, 2)).toEqual([0, 0, 0])
  expect(at(raster, 0, 1)).toEqual([0, 0, 0])
})

test('a dissolve begins with the one and ends with the other', () => {
  expect(dissolved(black, white, 0)).toEqual(black)
  expect(dissolved(black, white, 1)).toEqual(white)
  expect(at(dissolved(black, white, 0.5), 3, 3)).toEqual([128, 128, 128])
})

test('a push moves both by whole pixels', () => {
  const half = pushed(black, white, 0.5)
  expect([at(half, 3, 1)[0], at(half, 4, 1)[0]]).toEqual([0, 255])
  expect(pushed(black, white, 1)).toEqual(white)
})

test('plain ground covers', () => {
  expect(at(veiled(black, [200, 100, 50], 1), 5, 2)).toEqual([200, 100, 50])
  expect(veiled(white, [0, 0, 0], 0)).toEqual(white)
})

test('a closer look shows a part as large as the whole; an even slope stays one', () => {
  const slope = rasterOf(64, 36, (x) => [4 * x, 0, 0])
  const near = closer(slope, { x: 0.25, y: 0.25, width: 0.5, height: 0.5 })
  expect(closer(slope, { x: 0, y: 0, width: 1, height: 1 })).toEqual(slope)
  for (let x = 1; x < 63; x++) expect(Math.abs(at(near, x, 10)[0]! - 4 * (16 + (x + 0.5) / 2 - 0.5))).toBeLessThan(1)
  // A quarter of a pixel further on is a quarter of a pixel further on.
  const moved = closer(slope, { x: 0.25 + 0.25 / 64, y: 0.25, width: 0.5, height: 0.5 })
  const shift = Array.from({ length: 60 }, (_, x) => at(moved, x + 2, 10)[0]! - at(near, x + 2, 10)[0]!)
  expect(shift.reduce((sum, value) => sum + value, 0) / shift.length).toBeCloseTo(1, 1)
})

test('blocks leave only means: nothing in them differs from its neighbours', () => {
  const letters = rasterOf(64, 36, (x, y) => ((x + y) % 2 === 0 ? [255, 255, 255] : [0, 0, 0]))
  blockOut(letters, { x: 0.25, y: 0.25, width: 0.5, height: 0.5 })
  expect(at(letters, 20, 12)).toEqual(at(letters, 21, 12))
  expect(Math.abs(at(letters, 20, 12)[0]! - 128)).toBeLessThan(8)
  expect(at(letters, 2, 2)).not.toEqual(at(letters, 3, 2))
})

test('sizes that are no multiple of 16 are whole to their last pixel', () => {
  const [a, b] = [rasterOf(7, 3, (x, y) => [10 * x, 20 * y, 5]), rasterOf(7, 3, (x, y) => [250 - 10 * x, y, 9])]
  const mixed = dissolved(a, b, 0.25)
  mixed.data.forEach((value, i) => expect(value).toBe((a.data[i]! * 192 + b.data[i]! * 64 + 128) >> 8))
  expect(closer(a, { x: 0, y: 0, width: 1, height: 1 })).toEqual(a)
})

test('the module is the one its text says', async () => {
  expect(await compileText('src/core/picture/pixels')).toBe(PIXELS_MODULE)
})
