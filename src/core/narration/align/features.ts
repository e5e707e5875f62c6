import { BANDS } from './mel'

/** Cepstra of a frame: c1..c12 and the log energy. */
const CEPSTRA = 13
/** Values of one frame as they are compared: cepstra, and how they change. */
export const FEATURES = 2 * CEPSTRA

const LIFTER = 22
const ENERGY_WEIGHT = 0.7
const DELTA_WEIGHT = 0.6
const DELTA_REACH = 2
const WIDEST = 3.5

/** Whether a frame counts as speech. */
export type IsSpeech = (frame: number) => boolean

/**
 * Makes spectra of two voices comparable. Of each frame: cepstra (liftered, length 22) and energy, each less its mean
 * over its deviation, both taken over speech only and clipped so that no single frame decides; then their slopes.
 */
export function comparable(mel: Float32Array, isSpeech: IsSpeech): Float32Array {
  const cepstra = cepstraOf(mel)
  const frames = mel.length / BANDS
  const { mean, deviation } = statistics(cepstra, CEPSTRA, isSpeech)
  const level = new Float32Array(cepstra.length)
  for (let i = 0; i < cepstra.length; i++) {
    const c = i % CEPSTRA
    const weight = c === CEPSTRA - 1 ? ENERGY_WEIGHT : 1
    level[i] = weight * Math.max(-WIDEST, Math.min(WIDEST, (cepstra[i]! - mean[c]!) / deviation[c]!))
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

function cepstraOf(mel: Float32Array): Float32Array {
  const cosines = cosineTable()
  const frames = mel.length / BANDS
  const out = new Float32Array(frames * CEPSTRA)
  for (let f = 0; f < frames; f++) {
    let energy = 0
    for (let b = 0; b < BANDS; b++) energy += Math.exp(mel[f * BANDS + b]!)
    for (let c = 0; c < CEPSTRA - 1; c++) {
      let sum = 0
      for (let b = 0; b < BANDS; b++) sum += mel[f * BANDS + b]! * cosines[c * BANDS + b]!
      out[f * CEPSTRA + c] = sum
    }
    out[f * CEPSTRA + CEPSTRA - 1] = Math.log(energy)
  }
  return out
}

/** Rows of the cosine transform for c1..c12, each with its lifter. */
function cosineTable(): Float64Array {
  const table = new Float64Array((CEPSTRA - 1) * BANDS)
  for (let c = 1; c < CEPSTRA; c++) {
    const lift = 1 + (LIFTER / 2) * Math.sin((Math.PI * c) / LIFTER)
    for (let b = 0; b < BANDS; b++)
      table[(c - 1) * BANDS + b] = lift * Math.sqrt(2 / BANDS) * Math.cos((Math.PI * c * (b + 0.5)) / BANDS)
  }
  return table
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

function statistics(values: Float32Array, width: number, isSpeech: IsSpeech) {
  const mean = new Float64Array(width)
  const square = new Float64Array(width)
  let count = 0
  for (let f = 0; f < values.length / width; f++) {
    if (!isSpeech(f)) continue
    count++
    for (let c = 0; c < width; c++) {
      const value = values[f * width + c]!
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

/**
 * The reference as it would sound in the take's room: brought to the take's spectrum, its noise added
 * (parallel model combination after Gales and Young, 1996). What the noise hides in one is then hidden in both.
 */
export function inRoomOf(take: Float32Array, isSpeech: IsSpeech, reference: Float32Array): Float32Array {
  const { mean: own } = statistics(reference, BANDS, () => true)
  const { mean: speech } = statistics(take, BANDS, isSpeech)
  const noise = noiseOf(take, isSpeech)
  return reference.map((value, i) => {
    const b = i % BANDS
    const clean = Math.max(Math.exp(speech[b]!) - Math.exp(noise[b]!), 0.02 * Math.exp(speech[b]!))
    return Math.log(Math.exp(value - own[b]!) * clean + Math.exp(noise[b]!))
  })
}

/** Level of each band where nobody speaks. */
function noiseOf(take: Float32Array, isSpeech: IsSpeech): Float64Array {
  return statistics(take, BANDS, (frame) => !isSpeech(frame)).mean
}

/** Every frame from `from` to `to`, averaged into `count`. */
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
