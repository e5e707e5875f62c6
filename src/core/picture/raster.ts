import type { Area } from '@/core/lesson/layers'

/** A picture as rows of red, green and blue, a byte each. */
export interface Raster {
  width: number
  height: number
  data: Uint8Array
}

/** A part of a picture with its own transparency: red, green, blue and alpha, a byte each (not premultiplied). */
export interface Overlay {
  x: number
  y: number
  width: number
  height: number
  data: Uint8Array
}

/** `spare`: bytes of a picture of that size that nobody needs any more. To let six million go with each frame costs time. */
export function copyOf({ width, height, data }: Raster, spare?: Uint8Array): Raster {
  const copy = roomFor(data.length, spare)
  copy.set(data)
  return { width, height, data: copy }
}

export const roomFor = (bytes: number, spare?: Uint8Array): Uint8Array =>
  spare?.length === bytes ? spare : new Uint8Array(bytes)

/** Lays something over a picture, as far as it is there (0..1). Changes the picture. */
export function layOver(raster: Raster, over: Overlay, share: number): void {
  const left = Math.max(0, -over.x)
  const right = Math.min(over.width, raster.width - over.x)
  const strength = Math.round(share * 256)
  for (let row = Math.max(0, -over.y); row < Math.min(over.height, raster.height - over.y); row++) {
    let from = (row * over.width + left) * 4
    let to = ((over.y + row) * raster.width + over.x + left) * 3
    for (let column = left; column < right; column++, from += 4, to += 3) {
      const alpha = (over.data[from + 3]! * strength) >> 8
      if (alpha === 0) continue
      for (let c = 0; c < 3; c++) {
        const under = raster.data[to + c]!
        raster.data[to + c] = under + Math.round(((over.data[from + c]! - under) * alpha) / 255)
      }
    }
  }
}

/** The one picture pushed out to the left by the other. */
export function pushed(a: Raster, b: Raster, share: number): Raster {
  const gone = Math.round(share * a.width)
  const data = new Uint8Array(a.data.length)
  for (let row = 0; row < a.height; row++) {
    const at = row * a.width * 3
    data.set(a.data.subarray(at + gone * 3, at + a.width * 3), at)
    data.set(b.data.subarray(at, at + gone * 3), at + (a.width - gone) * 3)
  }
  return { ...a, data }
}

/** Fills an area with a colour. Changes the picture. */
export function fillArea(raster: Raster, area: Area, [red, green, blue]: readonly [number, number, number]): void {
  const [left, top, right, bottom] = pixelsOf(area, raster)
  for (let y = top; y < bottom; y++)
    for (let at = (y * raster.width + left) * 3; at < (y * raster.width + right) * 3; at += 3) {
      raster.data[at] = red
      raster.data[at + 1] = green
      raster.data[at + 2] = blue
    }
}

/** Blocks across the shorter side of what is covered: so few that no letter can be told from them. */
const BLOCKS = 4

/** Makes an area unreadable: each block has the mean colour of what was there. Changes the picture. */
export function blockOut(raster: Raster, area: Area): void {
  const [left, top, right, bottom] = pixelsOf(area, raster)
  const size = blockSize(right - left, bottom - top)
  for (let y = top; y < bottom; y += size)
    for (let x = left; x < right; x += size)
      fillWithMean(raster, x, y, Math.min(right, x + size), Math.min(bottom, y + size))
}

export const blockSize = (width: number, height: number): number =>
  Math.max(8, Math.ceil(Math.min(width, height) / BLOCKS))

/** Edges of an area in whole pixels, inside the picture: left, top, right, bottom. */
export function pixelsOf({ x, y, width, height }: Area, of: { width: number; height: number }) {
  const within = (place: number, length: number) => Math.min(length, Math.max(0, Math.round(place * length)))
  return [
    within(x, of.width),
    within(y, of.height),
    within(x + width, of.width),
    within(y + height, of.height),
  ] as const
}

function fillWithMean({ data, width }: Raster, left: number, top: number, right: number, bottom: number): void {
  const sum = [0, 0, 0]
  const each = (visit: (at: number) => void) => {
    for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) visit((y * width + x) * 3)
  }
  each((at) => {
    for (let c = 0; c < 3; c++) sum[c]! += data[at + c]!
  })
  const count = Math.max(1, (right - left) * (bottom - top))
  const mean = sum.map((value) => Math.round(value / count))
  each((at) => {
    for (let c = 0; c < 3; c++) data[at + c] = mean[c]!
  })
}
