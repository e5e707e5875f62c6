import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { toSamples, type Factor } from '@/core/units'
import { fadeFactor, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'

/** Hops over which the limiter holds a reduction, to each side (see limiter.ts). */
const HELD = 2

/** Energies of the voice as its limiter leaves them, by the extremes of its waveform: `ceiling` before the mix's own gain. */
export function limitedVoice(
  voice: LoudnessTrack,
  clips: readonly Clip[],
  ceiling: Factor,
  analysisOf: AnalysisOf,
): LoudnessTrack {
  const peaks = laidPeaks(clips, voice.length, analysisOf)
  return voice.map((energy, h) => {
    let peak = 0
    for (let k = Math.max(0, h - HELD); k <= Math.min(peaks.length - 1, h + HELD); k++) peak = Math.max(peak, peaks[k]!)
    return peak <= ceiling ? energy : energy * (ceiling / peak) ** 2
  })
}

/** The highest peak in each hop of lesson time. Clips that overlap add up. */
function laidPeaks(clips: readonly Clip[], hops: number, analysisOf: AnalysisOf): Float32Array {
  const peaks = new Float32Array(hops)
  const hop = toSamples(HOP)
  for (const clip of clips) {
    const wave = analysisOf(clip.media)?.wave
    if (!wave) continue
    const factor = 10 ** (clip.gain / 20) / 127
    const last = Math.min(hops, Math.ceil((clip.at + clip.length) / hop))
    for (let h = Math.max(0, Math.floor(clip.at / hop)); h < last; h++) {
      const place = h * hop + hop / 2 - clip.at
      const at = 2 * Math.floor((clip.from + place * clip.speed) / hop)
      peaks[h]! += Math.max(-(wave[at] ?? 0), wave[at + 1] ?? 0) * factor * fadeFactor(clip, place)
    }
  }
  return peaks
}
