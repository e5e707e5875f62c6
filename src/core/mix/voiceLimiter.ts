import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { HOPS_A_STEP, stepSums } from '@/core/measure/loudness'
import { toFactor, toSamples, type Factor } from '@/core/units'
import { fadeFactor, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'

/** Hops over which the limiter holds a reduction, to each side (see limiter.ts). */
const HELD = 2

/** The voice as its limiter leaves it under a ceiling (before the mix's own gain). */
export interface LimitedVoice {
  under(ceiling: Factor): LoudnessTrack
  /** Its step sums alone (see loudness.ts). */
  stepsUnder(ceiling: Factor): Float64Array
}

/** Foresees the limiter by the extremes of the voice's waveform. */
export function voiceLimiter(voice: LoudnessTrack, clips: readonly Clip[], analysisOf: AnalysisOf): LimitedVoice {
  const peaks = heldPeaks(laidPeaks(clips, voice.length, analysisOf))
  const full = stepSums(voice)
  const highest = highestOfSteps(peaks, full.length)
  return {
    under(ceiling) {
      const limited = voice.slice()
      for (let h = 0; h < limited.length; h++) if (peaks[h]! > ceiling) limited[h]! *= (ceiling / peaks[h]!) ** 2
      return limited
    },
    stepsUnder(ceiling) {
      const sums = full.slice()
      for (let i = 0; i < sums.length; i++) {
        if (highest[i]! <= ceiling) continue
        for (let h = i * HOPS_A_STEP; h < (i + 1) * HOPS_A_STEP; h++)
          if (peaks[h]! > ceiling) sums[i]! -= voice[h]! * (1 - (ceiling / peaks[h]!) ** 2)
      }
      return sums
    },
  }
}

function heldPeaks(peaks: Float32Array): Float32Array {
  const held = peaks.slice()
  for (let by = 1; by <= HELD; by++)
    for (let h = by; h < peaks.length; h++) {
      if (peaks[h - by]! > held[h]!) held[h] = peaks[h - by]!
      if (peaks[h]! > held[h - by]!) held[h - by] = peaks[h]!
    }
  return held
}

function highestOfSteps(peaks: Float32Array, steps: number): Float32Array {
  const highest = new Float32Array(steps)
  for (let i = 0, h = 0; i < steps; i++) {
    let most = 0
    for (const end = h + HOPS_A_STEP; h < end; h++) if (peaks[h]! > most) most = peaks[h]!
    highest[i] = most
  }
  return highest
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
