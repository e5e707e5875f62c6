import type { Area } from '@/core/lesson/layers'
import { PIXELS_MODULE } from './pixelsModule'
import { roomFor, type Raster } from './raster'

/** Pictures made of others, pixel by pixel: in WebAssembly, since a frame has six million bytes and more. */

/** The one picture fading into the other; `spare` as for a copy. */
export function dissolved(a: Raster, b: Raster, share: number, spare?: Uint8Array): Raster {
  const { data } = a
  const { bytes, blend } = work(3 * whole(data.length))
  const [first, second, out] = [0, whole(data.length), 2 * whole(data.length)]
  bytes.set(data, first)
  bytes.set(b.data, second)
  blend(first, second, out, data.length, Math.round(share * 256))
  return { ...a, data: takenOut(bytes, out, data.length, spare) }
}

/** Covered by plain ground, as far as that is there. */
export function veiled(
  raster: Raster,
  colour: readonly [number, number, number],
  share: number,
  spare?: Uint8Array,
): Raster {
  const ground = Uint8Array.from({ length: raster.width * 3 }, (_, i) => colour[i % 3]!)
  const data = new Uint8Array(raster.data.length)
  for (let row = 0; row < raster.height; row++) data.set(ground, row * ground.length)
  return dissolved(raster, { ...raster, data }, share, spare)
}

/**
 * A part of a picture as large as the whole: bilinear, so that it moves by parts of a pixel without a shimmer. First along
 * the rows that are needed, then between them.
 */
export function closer(raster: Raster, { x, y, width: share }: Area, spare?: Uint8Array): Raster {
  const { width, height, data } = raster
  const stride = width * 3
  const rows = placesOf(height, y, share)
  const [table, out] = [whole(data.length), whole(data.length) + whole(width * 12)]
  let [above, below] = [out + whole(data.length), out + whole(data.length) + whole(stride)]
  const { bytes, words, blend, along } = work(below + whole(stride))
  bytes.set(data)
  placesOf(width, x, share).forEach(({ at, next, part }, i) => words.set([at * 3, next * 3, part], table / 4 + i * 3))
  let made = -2
  rows.forEach(({ at, next, part }, row) => {
    if (at !== made) {
      // Further down, what was below is above.
      if (at === made + 1) [above, below] = [below, above]
      else along(at * stride, table, above, width)
      along(next * stride, table, below, width)
      made = at
    }
    blend(above, below, out + row * stride, stride, part)
  })
  return { width, height, data: takenOut(bytes, out, data.length, spare) }
}

function takenOut(bytes: Uint8Array, from: number, length: number, spare?: Uint8Array): Uint8Array {
  const taken = roomFor(length, spare)
  taken.set(bytes.subarray(from, from + length))
  return taken
}

/** Of each pixel of a row or column: which pixel it comes from, and how far it is towards the next, in 256ths. */
function placesOf(length: number, from: number, share: number): { at: number; next: number; part: number }[] {
  return Array.from({ length }, (_, i) => {
    const place = Math.min(length - 1, Math.max(0, from * length + (i + 0.5) * share - 0.5))
    const at = Math.floor(place)
    return { at, next: Math.min(length - 1, at + 1), part: Math.round((place - at) * 256) }
  })
}

/** Room for bytes and some behind them: 16 are read and written at a time. */
const whole = (bytes: number) => 16 * Math.ceil(bytes / 16) + 16

interface Pixels {
  memory: WebAssembly.Memory
  blend: (a: number, b: number, out: number, bytes: number, strength: number) => void
  along: (row: number, places: number, out: number, count: number) => void
}

let loaded: Pixels | null = null

/** The functions of `pixels.wat`, and their memory with room for so many bytes. */
function work(room: number): Pick<Pixels, 'blend' | 'along'> & { bytes: Uint8Array; words: Int32Array } {
  loaded ??= new WebAssembly.Instance(
    new WebAssembly.Module(Uint8Array.from(atob(PIXELS_MODULE), (letter) => letter.charCodeAt(0))),
  ).exports as unknown as Pixels
  const { memory, blend, along } = loaded
  const missing = room - memory.buffer.byteLength
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE))
  return { bytes: new Uint8Array(memory.buffer), words: new Int32Array(memory.buffer), blend, along }
}

/** Of WebAssembly's memory, in bytes. */
const PAGE = 65536
