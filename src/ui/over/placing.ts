import { create } from 'zustand'
import type { Area } from '@/core/lesson/layers'

/** A layer while it is dragged: where it would be. */
export const usePlacing = create<{
  draft: { id: string; area: Area } | null
  drag: (draft: { id: string; area: Area } | null) => void
}>((set) => ({ draft: null, drag: (draft) => set({ draft }) }))

/** Lines that what is dragged keeps to, in shares of the frame: its edges, a margin, thirds and the middle. */
const LINES = [0, 0.05, 1 / 3, 0.5, 2 / 3, 0.95, 1]
const NEAR = 0.012

export interface Placed {
  area: Area
  /** Lines that it keeps to. */
  across: number[]
  down: number[]
}

export type Handle = 'move' | 'upper left' | 'upper right' | 'lower left' | 'lower right'

/** Where an area is once it has been dragged by so much; it keeps to lines that are near, unless it is to be free. */
export function dragged(area: Area, handle: Handle, dx: number, dy: number, isFree: boolean): Placed {
  const [left, top] = [handle === 'move' || handle.endsWith('left'), handle === 'move' || handle.startsWith('upper')]
  const [right, bottom] = [handle === 'move' || !left, handle === 'move' || !top]
  const x = along(area.x, area.width, dx, left, right, isFree)
  const y = along(area.y, area.height, dy, top, bottom, isFree)
  return { area: { x: x.from, y: y.from, width: x.length, height: y.length }, across: x.lines, down: y.lines }
}

const LEAST = 0.02

function along(from: number, length: number, by: number, isFirst: boolean, isLast: boolean, isFree: boolean) {
  const isMoved = isFirst && isLast
  let [first, last] = [from + (isFirst ? by : 0), from + length + (isLast ? by : 0)]
  const lines: number[] = []
  const keep = (place: number): number => {
    const line = isFree ? undefined : LINES.find((one) => Math.abs(one - place) < NEAR)
    if (line === undefined) return 0
    lines.push(line)
    return line - place
  }
  if (isMoved) {
    const shift = keep((first + last) / 2) || keep(first) || keep(last)
    return { from: first + shift, length, lines }
  }
  if (isFirst) first = Math.min(last - LEAST, first + keep(first))
  else last = Math.max(first + LEAST, last + keep(last))
  return { from: first, length: last - first, lines }
}
