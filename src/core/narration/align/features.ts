import { CEPSTRA } from './cepstra'

/** Values of one frame as they are compared: cepstra and energy, and how they change. */
export const FEATURES = 2 * CEPSTRA

const DELTA_WEIGHT = 0.6
const DELTA_REACH = 2
const WIDEST = 3.5

/**
 * Makes cepstra of two voices comparable: each value less its mean, over its deviation, both taken over speech only,
 * and clipped so that no single frame decides; then the slope of each over five frames.
 */
export function comparable(cepstra: Float32Array, isSpeech: (frame: number) => boolean): Float32Array {
  const frames = cepstra.length / CEPSTRA
  const { mean, deviation } = statistics(cepstra, isSpeech)
  const level = new Float32Array(cepstra.length)
  for (let i = 0; i < cepstra.length; i++) {
    const c = i % CEPSTRA
    level[i] = Math.max(-WIDEST, Math.min(WIDEST, (cepstra[i]! - mean[c]!) / deviation[c]!))
  }
  const out = new Float32Array(frames * FEATURES)
  for (let f = 0; f < frames; f++) {
    for (let c = 0; c < CEPSTRA; c++) {
      out[f * FEATURES + c] = level[f * CEPSTRA + c]!
      out[f * FEATURES + CEPSTRA + c] = DELTA_WEIGHT * slope(level, f, c, frames)
    }
  }
  return out
}

/** Least-squares slope over five frames, scaled so that its deviation is about that of the values. */
function slope(level: Float32Array, frame: number, c: number, frames: number): number {
  let sum = 0
  for (let d = 1; d <= DELTA_REACH; d++) {
    const later = level[Math.min(frames - 1, frame + d) * CEPSTRA + c]!
    const earlier = level[Math.max(0, frame - d) * CEPSTRA + c]!
    sum += d * (later - earlier)
  }
  return sum / 3
}

function statistics(cepstra: Float32Array, isSpeech: (frame: number) => boolean) {
  const mean = new Float64Array(CEPSTRA)
  const square = new Float64Array(CEPSTRA)
  let count = 0
  for (let f = 0; f < cepstra.length / CEPSTRA; f++) {
    if (!isSpeech(f)) continue
    count++
    for (let c = 0; c < CEPSTRA; c++) {
      const value = cepstra[f * CEPSTRA + c]!
      mean[c]! += value
      square[c]! += value * value
    }
  }
  const deviation = mean.map((sum, c) => {
    const average = sum / Math.max(1, count)
    return Math.sqrt(Math.max(1e-6, square[c]! / Math.max(1, count) - average * average))
  })
  return { mean: mean.map((sum) => sum / Math.max(1, count)), deviation }
}

/** Every `step` frames averaged into one, from `from` to `to`; the last one may cover fewer. */
export function averaged(features: Float32Array, from: number, to: number, step: number): Float32Array {
  const count = Math.ceil((to - from) / step)
  const out = new Float32Array(count * FEATURES)
  for (let i = 0; i < count; i++) {
    const first = from + i * step
    const last = Math.min(to, first + step)
    for (let f = first; f < last; f++)
      for (let d = 0; d < FEATURES; d++) out[i * FEATURES + d]! += features[f * FEATURES + d]! / (last - first)
  }
  return out
}
