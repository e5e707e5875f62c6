import type { LoudnessUnits, Lufs, Seconds } from '@/core/units'
import { HOP, type LoudnessTrack } from './energyMeter'

const ABSOLUTE_GATE: Lufs = -70
/** Hops in the momentary window (400 ms), the short-term window (3 s) and between gating blocks (100 ms). */
const MOMENTARY = 40
const SHORT_TERM = 300
export const HOPS_A_STEP = 10

/** What a sound measures as a whole. Values are null where the standards leave them undefined (too short, silent). */
export interface LoudnessReport {
  integrated: Lufs | null
  range: LoudnessUnits | null
  maxMomentary: Lufs | null
  maxShortTerm: Lufs | null
}

export const loudnessOf = (energy: number): Lufs => -0.691 + 10 * Math.log10(energy)
export const energyOf = (loudness: Lufs): number => 10 ** ((loudness + 0.691) / 10)

/** Everything but the true peak, which needs samples. */
export function reportLoudness(track: LoudnessTrack): LoudnessReport {
  return {
    integrated: integratedLoudness(track),
    range: loudnessRange(track),
    maxMomentary: loudest(windowMeans(track, MOMENTARY, 1)),
    maxShortTerm: loudest(windowMeans(track, SHORT_TERM, 1)),
  }
}

/** Gated loudness of the whole track (BS.1770-5, Annex 1: absolute gate -70 LUFS, relative gate -10 LU), or null. */
export const integratedLoudness = (track: LoudnessTrack): Lufs | null => loudnessOfSteps(stepSums(track))

/** Energy of each whole 100 ms: all that the gated loudness of a sound needs. Where unrelated sounds add up, so do these. */
export function stepSums(track: LoudnessTrack): Float64Array {
  const sums = new Float64Array(Math.floor(track.length / HOPS_A_STEP))
  for (let i = 0, h = 0; i < sums.length; i++) {
    let sum = 0
    for (const end = h + HOPS_A_STEP; h < end; h++) sum += track[h]!
    sums[i] = sum
  }
  return sums
}

/** Gated loudness of a sound by its step sums. */
export function loudnessOfSteps(sums: Float64Array): Lufs | null {
  const blocks = new Float64Array(Math.max(0, sums.length - MOMENTARY / HOPS_A_STEP + 1))
  for (let i = 0; i < blocks.length; i++) {
    let sum = 0
    for (let k = 0; k < MOMENTARY / HOPS_A_STEP; k++) sum += sums[i + k]!
    blocks[i] = sum / MOMENTARY
  }
  return gatedMean(blocks, 10)
}

/** Loudness range by EBU Tech 3342: 10th to 95th percentile of the short-term loudness above both gates, or null. */
export function loudnessRange(track: LoudnessTrack): LoudnessUnits | null {
  const blocks = windowMeans(track, SHORT_TERM, HOPS_A_STEP)
  const mean = gatedMean(blocks, 0)
  if (mean === null) return null
  const [gate, threshold] = [energyOf(ABSOLUTE_GATE), energyOf(mean - 20)]
  const kept = blocks.filter((energy) => energy > gate && energy >= threshold).sort()
  const at = (share: number) => loudnessOf(kept[Math.round((kept.length - 1) * share)]!)
  return at(0.95) - at(0.1)
}

/** Momentary (400 ms) loudness at every 100 ms, the window ending there; -Infinity in digital silence. */
export const momentarySeries = (track: LoudnessTrack): Lufs[] => series(track, MOMENTARY)

/** Short-term (3 s) loudness at every 100 ms, the window ending there; -Infinity in digital silence. */
export const shortTermSeries = (track: LoudnessTrack): Lufs[] => series(track, SHORT_TERM)

/** Ungated loudness of a stretch; -Infinity where it is silent or empty. */
export function stretchLoudness(track: LoudnessTrack, from: Seconds, to: Seconds): Lufs {
  const first = Math.max(0, Math.round(from / HOP))
  const last = Math.min(track.length, Math.round(to / HOP))
  let sum = 0
  for (let i = first; i < last; i++) sum += track[i]!
  return last > first ? loudnessOf(sum / (last - first)) : -Infinity
}

/** Mean loudness of the blocks above -70 LUFS and, if `relativeGate` > 0, above their own mean minus that. */
function gatedMean(blocks: Float64Array, relativeGate: LoudnessUnits): Lufs | null {
  const audible = meanAbove(blocks, energyOf(ABSOLUTE_GATE))
  if (audible === null) return null
  if (relativeGate === 0) return loudnessOf(audible)
  const gated = meanAbove(blocks, Math.max(energyOf(ABSOLUTE_GATE), energyOf(loudnessOf(audible) - relativeGate)))
  return gated === null ? null : loudnessOf(gated)
}

function meanAbove(energies: Float64Array, threshold: number): number | null {
  let sum = 0
  let count = 0
  for (let i = 0; i < energies.length; i++) {
    if (!(energies[i]! > threshold)) continue
    sum += energies[i]!
    count++
  }
  return count > 0 ? sum / count : null
}

/** Means of the full windows that begin `step` hops apart. Running sums are exact enough in float64. */
function windowMeans(track: LoudnessTrack, window: number, step: number): Float64Array {
  const means = new Float64Array(Math.max(0, Math.floor((track.length - window) / step) + 1))
  let sum = 0
  for (let i = 0; i < track.length; i++) {
    sum += track[i]!
    if (i >= window) sum -= track[i - window]!
    const begin = i - window + 1
    if (begin >= 0 && begin % step === 0) means[begin / step] = Math.max(0, sum / window)
  }
  return means
}

function series(track: LoudnessTrack, window: number): Lufs[] {
  return Array.from(windowMeans(track, window, HOPS_A_STEP), loudnessOf)
}

function loudest(energies: Float64Array): Lufs | null {
  const peak = energies.reduce((max, energy) => Math.max(max, energy), 0)
  return peak > 0 ? loudnessOf(peak) : null
}
