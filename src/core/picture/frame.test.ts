import { FRAME_LINES, FRAME_RATES, FRAME_SHAPES, USUAL_FRAMING } from '@/core/lesson/framing'
import { HOUSE_RATE } from '@/core/units'
import { frameOf, groundColour, placeInFrame, rasterSize } from './frame'

test('every frame has whole pairs of pixels, as many lines as asked, and whole samples a picture', () => {
  for (const shape of FRAME_SHAPES)
    for (const lines of FRAME_LINES)
      for (const rate of FRAME_RATES) {
        const { width, height } = rasterSize(frameOf({ shape, lines, rate }))
        const [across, down] = shape.split(':').map(Number) as [number, number]
        expect(Math.min(width, height)).toBe(lines)
        expect(width / height).toBeCloseTo(across / down, 6)
        expect([width % 2, height % 2, HOUSE_RATE % rate]).toEqual([0, 0, 0])
      }
})

const wide = { width: 1920, height: 1080 }
const upright = { width: 1080, height: 1920 }

test('all of a picture stands in the frame, where it is said; a sliver of ground that is a rounding is none', () => {
  const at = (x: number, y: number) => ({ ...USUAL_FRAMING, middle: { x, y } })
  expect(placeInFrame(wide, upright, at(0.5, 0.5))).toEqual({ width: 1080, height: 608, x: 0, y: 656 })
  expect(placeInFrame(wide, upright, at(0.5, 0))).toMatchObject({ y: 0 })
  expect(placeInFrame(wide, upright, at(0.5, 1))).toMatchObject({ y: 1920 - 608 })
  expect(placeInFrame({ width: 1366, height: 768 }, wide, at(0.5, 0.5))).toEqual({ ...wide, x: 0, y: 0 })
})

test('a picture that fills the frame sticks out of it, and the part that was chosen is seen', () => {
  const fill = (x: number) => placeInFrame(wide, upright, { ...USUAL_FRAMING, way: 'fill', middle: { x, y: 0.5 } })
  expect(fill(0)).toEqual({ width: 3414, height: 1920, x: 0, y: 0 })
  expect(fill(1).x).toBe(1080 - 3414)
  expect(fill(0.5).x).toBe((1080 - 3414) / 2 + 1)
})

test('a ground is as light or dark as the picture asks, or the colour that was chosen', () => {
  expect([groundColour(USUAL_FRAMING, false), groundColour(USUAL_FRAMING, true)]).toEqual(['#ffffff', '#161d29'])
  expect(groundColour({ ...USUAL_FRAMING, ground: '#204060' }, true)).toBe('#204060')
})
