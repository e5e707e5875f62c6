import { takeSpeech } from '@/core/measure/takeVoice'
import { layBed } from '@/core/bed/loop'
import { applyGain, RIDE_RATE, rideBed, type GainTrack, type RideTargets } from '@/core/bed/ride'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import type { LoudnessTrack } from '@/core/measure/energyMeter'
import { stretchLoudness } from '@/core/measure/loudness'
import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import { mean } from './statistics'

export interface RideFigures {
  within3: number
  within2: number
  masked: number
  lost: number
  phraseWithin3: number
  phraseMasked: number
  /** dB a second. */
  slope: number
  /** Turns a minute beyond two for each long pause. */
  reversals: number
  onsetsMasked: number
  swellWithin3: number
  median: number
}

/** How a ride of this bed under this voice measures, by levels alone. */
export function rideFigures(
  voice: Analysis,
  piece: Analysis,
  targets: RideTargets & { clearance: number },
): RideFigures {
  const speech = takeSpeech(voice)
  const bed = laid(piece, analysisLength(voice))
  const gain = rideBed(voice.energy, bed, speech, targets)
  const ridden = applyGain(bed, gain)
  const sentences = joinSegments(speech, 0.3)
  const shortTerm = readings(voice.energy, ridden, sentences, 3)
  const phrase = readings(voice.energy, ridden, sentences, 0.4)
  const share = (values: number[], test: (value: number) => boolean) => values.filter(test).length / values.length
  const near = (within: number) => (value: number) => Math.abs(value - targets.clearance) <= within
  const masked = (value: number) => value < targets.clearance - 3
  const pauses = longPauses(sentences, targets.pauseFrom)
  const onsets = pauses.map(
    ({ end }) => stretchLoudness(voice.energy, end, end + 0.4) - stretchLoudness(ridden, end, end + 0.4),
  )
  const level = mean(sentences.map(({ start, end }) => stretchLoudness(voice.energy, start, end)))
  const swells = pauses
    .filter(({ start, end }) => end - start > 4)
    .map(({ start, end }) => level - stretchLoudness(ridden, start + 1.8, end - 1.8))
  return {
    within3: share(shortTerm, near(3)),
    within2: share(shortTerm, near(2)),
    masked: share(shortTerm, masked),
    lost: share(shortTerm, (value) => value > targets.clearance + 3),
    phraseWithin3: share(phrase, near(3)),
    phraseMasked: share(phrase, masked),
    slope: steepest(gain),
    reversals: (turns(gain) - 2 * pauses.length) / (gain.length / RIDE_RATE / 60),
    onsetsMasked: share(onsets, masked),
    swellWithin3: share(swells, (value) => Math.abs(value - targets.swell) <= 3),
    median: shortTerm.sort((a, b) => a - b)[shortTerm.length >> 1]!,
  }
}

/** The piece laid under the whole voice, as energies. */
function laid(piece: Analysis, length: number): LoudnessTrack {
  const track = new Float32Array(Math.round(length * 100))
  for (const run of layBed(piece, length)) {
    const runLength = run.to - run.from
    for (let h = 0; h < Math.round(runLength * 100); h++) {
      const t = h / 100
      const fade = Math.min(1, run.fadeIn ? t / run.fadeIn : 1, run.fadeOut ? (runLength - t) / run.fadeOut : 1)
      const at = Math.round(run.at * 100) + h
      if (at < track.length)
        track[at]! += (piece.energy[Math.round(run.from * 100) + h] ?? 0) * Math.sin((Math.PI / 2) * fade) ** 2
    }
  }
  return track
}

/** Clearance every 100 ms: the voice over 3 s inside its sentence, the bed over `bedWindow` inside it. */
function readings(voice: LoudnessTrack, bed: LoudnessTrack, sentences: SpeechSegment[], bedWindow: number): number[] {
  return sentences.flatMap(({ start, end }) => {
    const found: number[] = []
    const over = (track: LoudnessTrack, at: number, window: number) =>
      stretchLoudness(track, Math.max(start, at - window / 2), Math.min(end, at + window / 2))
    for (let at = start + 0.05; at < end; at += 0.1) found.push(over(voice, at, 3) - over(bed, at, bedWindow))
    return found
  })
}

function longPauses(sentences: SpeechSegment[], from: number): SpeechSegment[] {
  return sentences
    .map(({ start }, i) => ({ start: sentences[i - 1]?.end ?? 0, end: start }))
    .filter(({ start, end }) => end - start >= from)
}

const steepest = (gain: GainTrack) =>
  gain.reduce((max, value, i) => Math.max(max, i > 0 ? Math.abs(value - gain[i - 1]!) * RIDE_RATE : 0), 0)

/** Changes of direction, where the way back is at least half a dB. */
function turns(gain: GainTrack): number {
  let count = 0
  let rising = true
  let extreme = gain[0]!
  for (const value of gain) {
    const back = rising ? extreme - value : value - extreme
    if (back <= 0) extreme = value
    if (back < 0.5) continue
    count++
    rising = !rising
    extreme = value
  }
  return count
}
