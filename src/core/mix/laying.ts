import type { TrackName } from '@/core/lesson/document'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { toSamples } from '@/core/units'
import { fadeFactor, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'
import { voiceLimiter, type LimitedVoice } from './voiceLimiter'

/** Lays clips on lesson time, and keeps what came of it as long as they lie so. What it gives is to be read only. */
export interface Laying {
  energyOf(name: TrackName, clips: readonly Clip[], hops: number): LoudnessTrack
  limitedVoice(voice: LoudnessTrack, clips: readonly Clip[]): LimitedVoice
}

export function createLaying(analysisOf: AnalysisOf): Laying {
  const energies = new Map<TrackName, (key: string, make: () => LoudnessTrack) => LoudnessTrack>()
  const limited = keeper<LimitedVoice>()
  // Where an analysis has come meanwhile, the same clips are no longer silent.
  const keyOf = (clips: readonly Clip[], hops: number) =>
    JSON.stringify([hops, clips.map((clip) => [clip, analysisOf(clip.media) !== undefined])])
  return {
    energyOf(name, clips, hops) {
      const kept = energies.get(name) ?? keeper<LoudnessTrack>()
      energies.set(name, kept)
      return kept(keyOf(clips, hops), () => laidEnergy(clips, hops, analysisOf))
    },
    limitedVoice: (voice, clips) => limited(keyOf(clips, voice.length), () => voiceLimiter(voice, clips, analysisOf)),
  }
}

/** Keeps what was made last, as long as it is asked for by the same key. */
function keeper<T>(): (key: string, make: () => T) => T {
  let last: { key: string; made: T } | null = null
  return (key, make) => {
    if (last?.key !== key) last = { key, made: make() }
    return last.made
  }
}

/** Energies of clips laid on lesson time. Overlapping clips add up as unrelated sounds do. */
function laidEnergy(clips: readonly Clip[], hops: number, analysisOf: AnalysisOf): LoudnessTrack {
  const track = new Float32Array(hops)
  const hop = toSamples(HOP)
  for (const clip of clips) {
    const energy = analysisOf(clip.media)?.energy
    if (!energy) continue
    const factor = 10 ** (clip.gain / 10)
    const first = Math.floor(clip.at / hop)
    const last = Math.min(hops, Math.ceil((clip.at + clip.length) / hop))
    for (let h = first; h < last; h++) {
      const place = h * hop + hop / 2 - clip.at
      const source = energy[Math.floor((clip.from + place * clip.speed) / hop)] ?? 0
      track[h]! += source * factor * fadeFactor(clip, place) ** 2
    }
  }
  return track
}
