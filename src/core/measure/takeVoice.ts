import { clamp, type Decibels, type Lufs } from '@/core/units'
import type { Analysis } from './analysis'
import { HOP, meanEnergy, type LoudnessTrack } from './energyMeter'
import { integratedLoudness, loudnessOf } from './loudness'
import { speechSegments, type SpeechSegment } from './speech'

/** Who speaks in a take, and how loud. */

/** Every take is brought to this loudness before the ride and the lesson's own gain. */
const VOICE_LEVEL: Lufs = -18

export function levelToVoice(analysis: Analysis): Decibels {
  const loudness = takeLoudness(analysis)
  return loudness === null ? 0 : clamp(VOICE_LEVEL - loudness, -30, 40)
}

const speechOfTake = new WeakMap<Analysis, SpeechSegment[]>()
/** Speech in a take's own time; kept, since an analysis never changes. */
export function takeSpeech(analysis: Analysis): SpeechSegment[] {
  let speech = speechOfTake.get(analysis)
  if (!speech) speechOfTake.set(analysis, (speech = speechSegments(analysis.energy)))
  return speech
}

const loudnessOfTake = new WeakMap<Analysis, Lufs | null>()
/** Loudness of a take's speech. */
export function takeLoudness(analysis: Analysis): Lufs | null {
  let loudness = loudnessOfTake.get(analysis)
  if (loudness === undefined) {
    loudness = spokenLoudness(analysis.energy, takeSpeech(analysis))
    loudnessOfTake.set(analysis, loudness)
  }
  return loudness
}

/** Gated loudness of what is spoken, pauses left out; null where nothing is. */
export function spokenLoudness(voice: LoudnessTrack, speech: readonly SpeechSegment[]): Lufs | null {
  const parts = speech.map(({ start, end }) => voice.subarray(Math.round(start / HOP), Math.round(end / HOP)))
  const spoken = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    spoken.set(part, at)
    at += part.length
  }
  const mean = meanEnergy(spoken, 0, spoken.length)
  return integratedLoudness(spoken) ?? (mean > 0 ? loudnessOf(mean) : null)
}
