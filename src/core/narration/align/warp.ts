import { averaged, FEATURES } from './features'
import { distance, type TakeFrames } from './path'
import type { Visit } from './visits'

/** Frames of 40 ms are fine enough to compare sentences, and sixteen times quicker. In frames of 10 ms. */
export const WARP_STEP = 4

const BEND = 0.6
/** Half the width of the band, as a share of the reference, and at least in frames. */
const BAND = { share: 0.25, least: 6 }
const LOOSE_ENDS = 3

/** What is spoken of a visit, in frames of 40 ms. */
export function spokenPart({ features, speech }: TakeFrames, { from, to }: Visit): Float32Array {
  const spoken: number[] = []
  for (let t = from; t < to; t++) if (speech[t]! >= 0.5) spoken.push(t)
  const out = new Float32Array(spoken.length * FEATURES)
  spoken.forEach((t, i) => out.set(features.subarray(t * FEATURES, (t + 1) * FEATURES), i * FEATURES))
  return averaged(out, 0, spoken.length, WARP_STEP)
}

/** The cheapest way through both from beginning to end (dynamic time warping), as a mean over the take's frames. */
export function meanDistance(take: Float32Array, reference: Float32Array): number {
  const row = lastRow(take, reference)
  const count = row.length
  let best = Infinity
  for (let r = Math.max(0, count - LOOSE_ENDS); r < count; r++) best = Math.min(best, row[r]! + (count - 1 - r) * BEND)
  return best / (take.length / FEATURES)
}

/** How far into another saying of the same words one comes that may break off, 0..1 (dynamic time warping with an open end). */
export function reachWithin(saying: Float32Array, other: Float32Array): number {
  const row = lastRow(saying, other)
  let end = 0
  for (let r = 1; r < row.length; r++) if (row[r]! < row[end]!) end = r
  return (end + 1) / row.length
}

/** What the cheapest ways of the whole take cost that end at each frame of the reference. */
function lastRow(take: Float32Array, reference: Float32Array): Float64Array {
  const frames = take.length / FEATURES
  const count = reference.length / FEATURES
  const half = Math.max(BAND.least, BAND.share * count)
  let row = new Float64Array(count).fill(Infinity)
  let next = new Float64Array(count)
  for (let t = 0; t < frames; t++) {
    next.fill(Infinity)
    const centre = (t * count) / frames
    const high = Math.min(count - 1, Math.ceil(centre + half))
    for (let r = Math.max(0, Math.floor(centre - half)); r <= high; r++) {
      const before = t === 0 ? (r < LOOSE_ENDS ? r * BEND : Infinity) : cheapestBefore(row, r)
      if (before < Infinity) next[r] = before + distance(take, t, reference, r)
    }
    ;[row, next] = [next, row]
  }
  return row
}

function cheapestBefore(row: Float64Array, r: number): number {
  const stay = row[r]! + BEND
  const step = r > 0 ? row[r - 1]! : Infinity
  const leap = r > 1 ? row[r - 2]! + BEND : Infinity
  return Math.min(stay, step, leap)
}
