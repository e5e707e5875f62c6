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

export const copyOf = ({ width, height, data }: Raster): Raster => ({ width, height, data: new Uint8Array(data) })

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

/** The one picture fading into the other. */
export function dissolved(a: Raster, b: Raster, share: number): Raster {
  const strength = Math.round(share * 256)
  const data = new Uint8Array(a.data.length)
  for (let i = 0; i < data.length; i++) data[i] = (a.data[i]! * (256 - strength) + b.data[i]! * strength + 128) >> 8
  return { ...a, data }
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

/** Covered by plain ground, as far as that is there. */
export function veiled(raster: Raster, [red, green, blue]: readonly [number, number, number], share: number): Raster {
  const strength = Math.round(share * 256)
  const ground = [red * strength + 128, green * strength + 128, blue * strength + 128] as const
  const data = new Uint8Array(raster.data.length)
  for (let i = 0; i < data.length; i += 3) {
    data[i] = (raster.data[i]! * (256 - strength) + ground[0]) >> 8
    data[i + 1] = (raster.data[i + 1]! * (256 - strength) + ground[1]) >> 8
    data[i + 2] = (raster.data[i + 2]! * (256 - strength) + ground[2]) >> 8
  }
  return { ...raster, data }
}

/** A part of a picture as large as the whole: bilinear, so that it moves by parts of a pixel without a shimmer. */
export function closer(raster: Raster, { x, y, width: share }: Area): Raster {
  const { width, height, data: from } = raster
  const data = new Uint8Array(from.length)
  const columns = placesOf(width, x, share)
  const rows = placesOf(height, y, share)
  for (let row = 0, to = 0; row < height; row++) {
    const above = rows.at[row]! * width * 3
    const below = Math.min(height - 1, rows.at[row]! + 1) * width * 3
    const down = rows.part[row]!
    for (let column = 0; column < width; column++, to += 3) {
      const left = columns.at[column]! * 3
      const right = columns.next[column]! * 3
      const along = columns.part[column]!
      // Weights of the four pixels round the place, 65536 together.
      const [lowRight, lowLeft] = [along * down, (256 - along) * down]
      const [highRight, highLeft] = [along * (256 - down), (256 - along) * (256 - down)]
      const [a, b, c, d] = [above + left, above + right, below + left, below + right]
      data[to] = (from[a]! * highLeft + from[b]! * highRight + from[c]! * lowLeft + from[d]! * lowRight + 32768) >> 16
      data[to + 1] =
        (from[a + 1]! * highLeft +
          from[b + 1]! * highRight +
          from[c + 1]! * lowLeft +
          from[d + 1]! * lowRight +
          32768) >>
        16
      data[to + 2] =
        (from[a + 2]! * highLeft +
          from[b + 2]! * highRight +
          from[c + 2]! * lowLeft +
          from[d + 2]! * lowRight +
          32768) >>
        16
    }
  }
  return { width, height, data }
}

/** Of each pixel of a row or column: which pixel it comes from, and how far it is towards the next, in 256ths. */
function placesOf(length: number, from: number, share: number) {
  const at = new Int32Array(length)
  const next = new Int32Array(length)
  const part = new Int32Array(length)
  for (let i = 0; i < length; i++) {
    const place = Math.min(length - 1, Math.max(0, from * length + (i + 0.5) * share - 0.5))
    at[i] = Math.floor(place)
    next[i] = Math.min(length - 1, at[i]! + 1)
    part[i] = Math.round((place - at[i]!) * 256)
  }
  return { at, next, part }
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
