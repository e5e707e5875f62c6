import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { HOPS_A_STEP, stepSums } from '@/core/measure/loudness'
import { toFactor, toSamples, type Factor } from '@/core/units'
import { fadeFactor, type Clip } from './clip'
import { fadeWeights, LIMITER_REACH } from './limiter'
import type { AnalysisOf } from './mixPlan'

/** The limiter is foreseen in cells of 2 ms. */
const CELLS_A_HOP = 5
/** Where in its hop a peak is, nobody knows: as if in its middle. */
const PEAK_CELL = 2
/** Cells over which a reduction is held and then faded, to each side. */
const REACH = Math.round((LIMITER_REACH / HOP) * CELLS_A_HOP)
const FADE = fadeWeights(REACH)
/** Hops to each side of a peak in which anything is reduced. */
const SIDE = Math.ceil((2 * REACH) / CELLS_A_HOP)

/** The voice as its limiter leaves it under a ceiling (before the mix's own gain). */
export interface LimitedVoice {
  under(ceiling: Factor): LoudnessTrack
  /** Its step sums alone (see loudness.ts). */
  stepsUnder(ceiling: Factor): Float64Array
}

/** Foresees the limiter by the extremes of the voice's waveform. */
export function voiceLimiter(voice: LoudnessTrack, clips: readonly Clip[], analysisOf: AnalysisOf): LimitedVoice {
  const peaks = laidPeaks(clips, voice.length, analysisOf)
  const full = stepSums(voice)
  return {
    under(ceiling) {
      const limited = voice.slice()
      eachReduced(peaks, ceiling, (hop, share) => (limited[hop]! *= share))
      return limited
    },
    stepsUnder(ceiling) {
      const sums = full.slice()
      eachReduced(peaks, ceiling, (hop, share) => {
        const step = Math.floor(hop / HOPS_A_STEP)
        if (step < sums.length) sums[step]! -= voice[hop]! * (1 - share)
      })
      return sums
    },
  }
}

/** Tells what share of its energy a hop keeps, for each that has a peak over the ceiling near it. */
function eachReduced(peaks: Float32Array, ceiling: Factor, tell: (hop: number, share: number) => void): void {
  for (let first = 0; first < peaks.length; first++) {
    if (peaks[first]! <= ceiling) continue
    // What is so near that their reductions meet is looked at together.
    let last = first
    for (let h = first; h <= last + 2 * SIDE && h < peaks.length; h++) if (peaks[h]! > ceiling) last = h
    const from = first - SIDE
    const held = heldCells(peaks, ceiling, from, last + SIDE + 1)
    for (let h = Math.max(0, from); h <= Math.min(peaks.length - 1, last + SIDE); h++)
      tell(h, energyKept(held, (h - from) * CELLS_A_HOP))
    first = last + SIDE
  }
}

/** Per cell between two hops the factor to which the limiter holds it down. */
function heldCells(peaks: Float32Array, ceiling: Factor, from: number, to: number): Float32Array {
  const held = new Float32Array((to - from) * CELLS_A_HOP).fill(1)
  for (let h = Math.max(0, from); h < Math.min(peaks.length, to); h++) {
    if (peaks[h]! <= ceiling) continue
    const need = ceiling / peaks[h]!
    const cell = (h - from) * CELLS_A_HOP + PEAK_CELL
    for (let k = cell - REACH; k <= cell + REACH; k++) if (need < held[k]!) held[k] = need
  }
  return held
}

/** The mean square of the faded gain over one hop. */
function energyKept(held: Float32Array, firstCell: number): number {
  let sum = 0
  for (let cell = firstCell; cell < firstCell + CELLS_A_HOP; cell++) {
    let gain = 0
    for (let k = 0; k < FADE.length; k++) gain += FADE[k]! * (held[cell + k - REACH + 1] ?? 1)
    sum += gain * gain
  }
  return sum / CELLS_A_HOP
}

/** The highest peak in each hop of lesson time. Clips that overlap add up. */
function laidPeaks(clips: readonly Clip[], hops: number, analysisOf: AnalysisOf): Float32Array {
  const peaks = new Float32Array(hops)
  const hop = toSamples(HOP)
  for (const clip of clips) {
    const wave = analysisOf(clip.media)?.wave
    if (!wave) continue
    const factor = toFactor(clip.gain) / 127
    const last = Math.min(hops, Math.ceil((clip.at + clip.length) / hop))
    for (let h = Math.max(0, Math.floor(clip.at / hop)); h < last; h++) {
      const place = h * hop + hop / 2 - clip.at
      const at = 2 * Math.floor((clip.from + place * clip.speed) / hop)
      peaks[h]! += Math.max(-(wave[at] ?? 0), wave[at + 1] ?? 0) * factor * fadeFactor(clip, place)
    }
  }
  return peaks
}
