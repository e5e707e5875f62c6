import type { RideTargets } from '@/core/bed/ride'
import type { LoudnessTrack } from '@/core/measure/energyMeter'
import { stretchLoudness } from '@/core/measure/loudness'
import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import type { Decibels, Seconds } from '@/core/units'
import { gainOfStems, rideMotion, turnsOf } from '@/core/mix/rideMotion'
import type { Stems } from './rideStems'
import { mean } from './statistics'

const STEP: Seconds = 0.1 // of the gain of stems

export interface RideFigures {
  within3: number
  within2: number
  masked: number
  lost: number
  phraseWithin3: number
  phraseMasked: number
  /** dB a second. */
  slope: number
  /** Turns of 1.5 dB and of .5 dB a minute, beyond two for each long pause. */
  turns: number
  fineTurns: number
  /** A minute. */
  bumps: number
  onsetsMasked: number
  swellWithin3: number
  median: number
}

/** How a ride measures in the finished stems. */
export function rideFigures(
  { voice, bed, bedUngained, speech }: Stems,
  targets: Pick<RideTargets, 'pauseFrom' | 'swell'> & { clearance: number },
): RideFigures {
  const sentences = joinSegments(speech, 0.3)
  const shortTerm = readings(voice, bed, sentences, 3)
  const phrase = readings(voice, bed, sentences, 0.4)
  const share = (values: number[], test: (value: number) => boolean) => values.filter(test).length / values.length
  const near = (within: number) => (value: number) => Math.abs(value - targets.clearance) <= within
  const masked = (value: number) => value < targets.clearance - 3
  const gain = gainOfStems(bedUngained, bed)
  const { turns, bumps } = rideMotion(bedUngained, bed, speech)
  const minutes = (gain.length * STEP) / 60
  const pauses = longPauses(sentences, targets.pauseFrom)
  const onsets = pauses.map(({ end }) => stretchLoudness(voice, end, end + 0.4) - stretchLoudness(bed, end, end + 0.4))
  const level = mean(sentences.map(({ start, end }) => stretchLoudness(voice, start, end)))
  const swells = pauses
    .filter(({ start, end }) => end - start > 4)
    .map(({ start, end }) => level - stretchLoudness(bed, start + 1.8, end - 1.8))
  return {
    within3: share(shortTerm, near(3)),
    within2: share(shortTerm, near(2)),
    masked: share(shortTerm, masked),
    lost: share(shortTerm, (value) => value > targets.clearance + 3),
    phraseWithin3: share(phrase, near(3)),
    phraseMasked: share(phrase, masked),
    slope: steepest(gain),
    turns: turns - (2 * pauses.length) / minutes,
    fineTurns: (turnsOf(gain, 0.5).length - 2 * pauses.length) / minutes,
    bumps,
    onsetsMasked: share(onsets, masked),
    swellWithin3: share(swells, (value) => Math.abs(value - targets.swell) <= 3),
    median: shortTerm.sort((a, b) => a - b)[shortTerm.length >> 1]!,
  }
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

const steepest = (gain: readonly Decibels[]) =>
  gain.reduce((max, value, i) => Math.max(max, i > 0 ? Math.abs(value - gain[i - 1]!) / STEP : 0), 0)
