import { HOUSE_RATE } from '@/core/units'

/** Draws short stretches of a signal anew from what is left and right of them. */

/** Samples this near to full scale, or to the highest of a flat top, are clipped. */
const FULL = 0.985
const FLAT = 1e-4
const SHORTEST_CLIP = 3
const LONGEST_CLIP = 96
/** No voice is clipped on purpose at such a low level. */
const LOWEST_CLIP = 0.3

export interface Stretch {
  from: number
  to: number
}

/** Flat tops: at full scale, or where an earlier stage has clipped and was turned down after. */
export function clippedStretches(samples: Float32Array): Stretch[] {
  const found: Stretch[] = []
  for (let i = 1; i < samples.length; i++) {
    const level = Math.abs(samples[i]!)
    if (level < LOWEST_CLIP) continue
    const isClipped = (at: number) =>
      Math.abs(samples[at]! - samples[i]!) < FLAT || (level >= FULL && samples[at]! * Math.sign(samples[i]!) >= FULL)
    let to = i + 1
    while (to < samples.length && isClipped(to)) to++
    if (to - i >= SHORTEST_CLIP) found.push({ from: i, to })
    i = to - 1
  }
  return found
}

/** Clipped peaks rounded again by a cubic that keeps the slopes at both sides. What comes out may pass full scale. */
export function repairClipping(samples: Float32Array): Float32Array {
  return redrawn(
    samples,
    clippedStretches(samples).filter(({ from, to }) => to - from <= LONGEST_CLIP),
  )
}

/** A click's bend against that of its surroundings, and how long it may be. */
const CLICK_BEND = 14
const CLICK_LEAST = 0.02
const CLICK_LONGEST = Math.round(0.0012 * HOUSE_RATE)
const CLICK_SURROUNDINGS = Math.round(0.01 * HOUSE_RATE)

/** Clicks that stand out clearly: a sharp bend that nothing around it comes near. */
export function clickStretches(samples: Float32Array): Stretch[] {
  const bend = new Float32Array(samples.length)
  for (let i = 2; i < samples.length; i++) bend[i] = Math.abs(samples[i]! - 2 * samples[i - 1]! + samples[i - 2]!)
  const found: Stretch[] = []
  for (let i = CLICK_SURROUNDINGS; i < samples.length - CLICK_SURROUNDINGS; i++) {
    if (bend[i]! < CLICK_LEAST) continue
    let to = i + 1
    for (let j = i; j < i + CLICK_LONGEST; j++) if (bend[j]! > bend[i]! / 4) to = j + 1
    const around = (loudest(bend, i - CLICK_SURROUNDINGS, i - 2) + loudest(bend, to + 2, to + CLICK_SURROUNDINGS)) / 2
    const highest = loudest(bend, i, to)
    if (highest > CLICK_BEND * around && highest > CLICK_LEAST) found.push({ from: i - 3, to: to + 1 })
    i = to
  }
  return found
}

export const repairClicks = (samples: Float32Array): Float32Array => redrawn(samples, clickStretches(samples))

function loudest(values: Float32Array, from: number, to: number): number {
  let highest = 0
  for (let i = Math.max(0, from); i < Math.min(values.length, to); i++) highest = Math.max(highest, values[i]!)
  return highest
}

/** Cubic Hermite curves over the stretches. */
function redrawn(samples: Float32Array, stretches: readonly Stretch[]): Float32Array {
  const out = samples.slice()
  for (const { from, to } of stretches) {
    if (from < 2 || to > samples.length - 2) continue
    const [a, b] = [from - 1, to]
    const length = b - a
    const [left, right] = [samples[a]!, samples[b]!]
    const slopeLeft = (samples[a]! - samples[a - 1]!) * length
    const slopeRight = (samples[b + 1]! - samples[b]!) * length
    for (let i = from; i < to; i++) {
      const t = (i - a) / length
      const [t2, t3] = [t * t, t * t * t]
      out[i] =
        (2 * t3 - 3 * t2 + 1) * left +
        (t3 - 2 * t2 + t) * slopeLeft +
        (3 * t2 - 2 * t3) * right +
        (t3 - t2) * slopeRight
    }
  }
  return out
}
