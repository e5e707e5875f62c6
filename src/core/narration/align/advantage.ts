import { averaged, FEATURES } from './features'
import type { TakeFrames } from './path'
import type { Reference } from './reference'
import type { Visit } from './visits'
import { meanDistance, spokenPart, WARP_STEP } from './warp'

const DECOYS = 6

/**
 * How much nearer a visit is to its own words than to decoys, as a share of the distance to these: about 0 by chance. Null
 * where it is too short for its words to be compared.
 */
export function advantageOver(take: TakeFrames, { features, word }: Reference): (visit: Visit) => number | null {
  const reference = averaged(features, 0, word.length, WARP_STEP)
  return (visit) => {
    const part = spokenPart(take, visit)
    const first = Math.floor(visit.first / WARP_STEP)
    const own = reference.subarray(first * FEATURES, Math.max(first + 1, Math.ceil(visit.last / WARP_STEP)) * FEATURES)
    const nearness = meanDistance(part, own)
    if (!Number.isFinite(nearness)) return null
    const decoys = [...decoysOf(own, first, reference), backwards(own)].map((one) => meanDistance(part, one))
    const usual = decoys.reduce((sum, value) => sum + value, 0) / decoys.length
    return 1 - nearness / usual
  }
}

/** Stretches as long as this one from elsewhere, evenly spaced; round the end of a short script. */
function decoysOf(own: Float32Array, first: number, all: Float32Array): Float32Array[] {
  const count = all.length / FEATURES
  const length = own.length / FEATURES
  return Array.from({ length: DECOYS }, (_, d) => {
    const start = Math.round(first + length / 2 + ((count - length) * (d + 0.5)) / DECOYS)
    const decoy = new Float32Array(own.length)
    for (let i = 0; i < length; i++) {
      const at = ((start + i) % count) * FEATURES
      decoy.set(all.subarray(at, at + FEATURES), i * FEATURES)
    }
    return decoy
  })
}

/** The same sounds in the opposite order: slopes change their signs. */
function backwards(features: Float32Array): Float32Array {
  const out = new Float32Array(features.length)
  const frames = features.length / FEATURES
  for (let i = 0; i < frames; i++)
    for (let c = 0; c < FEATURES; c++)
      out[i * FEATURES + c] = (c < FEATURES / 2 ? 1 : -1) * features[(frames - 1 - i) * FEATURES + c]!
  return out
}
