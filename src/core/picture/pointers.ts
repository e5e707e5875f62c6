import { UNITS, type Size } from './frame'
import type { PointerLayer } from '@/core/lesson/layers'

/** Strokes of a pointer as SVG path data, in units of the frame; as much of it as has been drawn so far (0..1). */
export interface PointerDrawing {
  path: string
  /** Of the stroke; 0 where it is filled. */
  stroke: number
}

type Point = readonly [x: number, y: number]

/** Units of the frame. */
const STROKE = 0.009 * UNITS
const HEAD = 5 // strokes
/** The tip is drawn when so much of the arrow's line is. */
const HEAD_FROM = 0.7

export function drawPointer(
  layer: Pick<PointerLayer, 'shape' | 'tip' | 'area'>,
  frame: Size,
  share: number,
): PointerDrawing {
  const { area } = layer
  const [left, top] = [area.x * frame.width, area.y * frame.height]
  const [width, height] = [area.width * frame.width, area.height * frame.height]
  const stroke = STROKE
  const corners: Point[] = [
    [left, top],
    [left + width, top],
    [left + width, top + height],
    [left, top + height],
  ]
  switch (layer.shape) {
    case 'ring':
      return { path: ring(left + width / 2, top + height / 2, width / 2, height / 2, share), stroke }
    case 'box':
      return { path: line([...corners, corners[0]!], share), stroke }
    case 'underline':
      return {
        path: line(
          [
            [left, top + height / 2],
            [left + width, top + height / 2],
          ],
          share,
        ),
        stroke,
      }
    case 'arrow': {
      const tip = corners[{ 'upper left': 0, 'upper right': 1, 'lower right': 2, 'lower left': 3 }[layer.tip]]!
      const tail = corners[{ 'upper left': 2, 'upper right': 3, 'lower right': 0, 'lower left': 1 }[layer.tip]]!
      const path = line([tail, tip], Math.min(1, share / HEAD_FROM))
      const headShare = Math.max(0, (share - HEAD_FROM) / (1 - HEAD_FROM))
      return { path: headShare > 0 ? `${path}${head(tail, tip, stroke * HEAD * headShare)}` : path, stroke }
    }
    case 'number': {
      const radius = Math.min(width, height) / 2
      return { path: ring(left + width / 2, top + height / 2, radius, radius, 1), stroke: 0 }
    }
  }
}

/** An ellipse, from its top on and clockwise. */
function ring(x: number, y: number, rx: number, ry: number, share: number): string {
  const at = (turn: number): Point => [x + rx * Math.sin(turn), y - ry * Math.cos(turn)]
  const arc = (turn: number) => `A${number(rx)} ${number(ry)} 0 0 1 ${point(at(turn))}`
  const whole = 2 * Math.PI * share
  const half = Math.min(whole, Math.PI)
  return `M${point(at(0))}${arc(half)}${whole > half ? arc(whole) : ''}${share >= 1 ? 'Z' : ''}`
}

function line(points: readonly Point[], share: number): string {
  const lengths = points.slice(1).map((to, i) => Math.hypot(to[0] - points[i]![0], to[1] - points[i]![1]))
  let left = lengths.reduce((sum, length) => sum + length, 0) * share
  let path = `M${point(points[0]!)}`
  for (const [i, length] of lengths.entries()) {
    if (left <= 0 && i > 0) break
    const part = length > 0 ? Math.min(1, Math.max(0, left / length)) : 1
    const [from, to] = [points[i]!, points[i + 1]!]
    path += `L${point([from[0] + (to[0] - from[0]) * part, from[1] + (to[1] - from[1]) * part])}`
    left -= length
  }
  return path
}

function head(tail: Point, tip: Point, size: number): string {
  const turn = Math.atan2(tip[1] - tail[1], tip[0] - tail[0])
  const wing = (by: number): Point => [tip[0] - size * Math.cos(turn + by), tip[1] - size * Math.sin(turn + by)]
  return `M${point(wing(0.5))}L${point(tip)}L${point(wing(-0.5))}`
}

const number = (value: number) => value.toFixed(2)
const point = ([x, y]: Point) => `${number(x)} ${number(y)}`
