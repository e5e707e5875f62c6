import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { toFactor, toSamples, type Factor } from '@/core/units'
import { fadeFactor, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'

/** Hops over which the limiter holds a reduction, to each side (see limiter.ts). */
const HELD = 2

/**
 * Gives energies of the voice as its limiter leaves them under a ceiling (before the mix's own gain), by the extremes of its
 * waveform.
 */
export function voiceLimiter(
  voice: LoudnessTrack,
  clips: readonly Clip[],
  analysisOf: AnalysisOf,
): (ceiling: Factor) => LoudnessTrack {
  const peaks = heldPeaks(laidPeaks(clips, voice.length, analysisOf))
  return (ceiling) => {
    const limited = voice.slice()
    for (let h = 0; h < limited.length; h++) if (peaks[h]! > ceiling) limited[h]! *= (ceiling / peaks[h]!) ** 2
    return limited
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
