import { RIDE_RATE } from '@/core/bed/ride'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { loudnessOf, stretchLoudness } from '@/core/measure/loudness'
import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import type { RideMotion } from './rideMotion'
import type { DecibelsTruePeak, LoudnessUnits, Lufs, Seconds } from '@/core/units'

/** How far from the clearance asked for still counts as held. */
export const CORRIDOR: LoudnessUnits = 3

/** What a finished lesson measures. Shares are 0..1 of the time in which the voice speaks, null where it never does. */
export interface BalanceSheet {
  within: number | null
  /** The bed is louder than the corridor allows: the voice is masked. */
  masked: number | null
  /** The bed is softer than the corridor allows: it is lost. */
  lost: number | null
  loudness: Lufs | null
  range: LoudnessUnits | null
  truePeak: DecibelsTruePeak | null
  /** Median of the clearance while the voice speaks. */
  clearance: LoudnessUnits | null
  /** How often the music turned and was heard to pump, a minute; null without music. */
  motion: RideMotion | null
  spoken: Seconds
  pictureLength: Seconds | null
  soundLength: Seconds
}

/** One reading while the voice speaks. */
export interface ClearanceReading {
  at: Seconds
  clearance: LoudnessUnits
}

const READING_STEP: Seconds = 0.1
const WINDOW: Seconds = 3
const SENTENCE_PAUSE: Seconds = 0.3

/**
 * Voice less bed, both over 3 s inside one sentence (the bed over less, if wanted), every 100 ms of spoken time. Where there is no bed at all there is no
 * reading; where it is silent although `music` was to be heard, the clearance is infinite.
 */
export function clearanceReadings(
  voice: LoudnessTrack,
  bed: LoudnessTrack,
  speech: readonly SpeechSegment[],
  music: readonly SpeechSegment[] = [],
  bedWindow: Seconds = WINDOW,
): ClearanceReading[] {
  const [voiceIn, bedIn] = [movingLoudness(voice), movingLoudness(bed)]
  return joinSegments(speech, SENTENCE_PAUSE).flatMap(({ start, end }) => {
    const readings: ClearanceReading[] = []
    for (let at = start + READING_STEP / 2; at < end; at += READING_STEP) {
      const over = (loudness: typeof voiceIn, window: Seconds) =>
        loudness(Math.max(start, at - window / 2), Math.min(end, at + window / 2))
      const under = over(bedIn, bedWindow)
      if (under > -90) readings.push({ at, clearance: over(voiceIn, WINDOW) - under })
      else if (music.some(({ start, end }) => at >= start && at < end)) readings.push({ at, clearance: Infinity })
    }
    return readings
  })
}

/** Ungated loudness of stretches that move on through a track: each costs only what it has in other than the one before. */
function movingLoudness(track: LoudnessTrack): (from: Seconds, to: Seconds) => Lufs {
  let [first, last, sum] = [0, 0, 0]
  return (from, to) => {
    const start = Math.max(0, Math.round(from / HOP))
    const end = Math.min(track.length, Math.round(to / HOP))
    if (start < first || start >= last || end < last) [first, last, sum] = [start, start, 0]
    for (; last < end; last++) sum += track[last]!
    for (; first < start; first++) sum -= track[first]!
    return end > start ? loudnessOf(Math.max(0, sum) / (end - start)) : -Infinity
  }
}

/** `target`: one for all, or one every 1 / RIDE_RATE seconds. */
export function corridorShares(
  readings: readonly ClearanceReading[],
  target: LoudnessUnits | ArrayLike<LoudnessUnits>,
) {
  if (readings.length === 0) return { within: null, masked: null, lost: null, clearance: null }
  const share = (test: (reading: ClearanceReading) => boolean) => readings.filter(test).length / readings.length
  const sorted = readings.map(({ clearance }) => clearance).sort((a, b) => a - b)
  const masked = share(({ at, clearance }) => clearance < targetAt(target, at) - CORRIDOR)
  const lost = share(({ at, clearance }) => clearance > targetAt(target, at) + CORRIDOR)
  const median = sorted[Math.floor(sorted.length / 2)]!
  return { within: 1 - masked - lost, masked, lost, clearance: Number.isFinite(median) ? median : null }
}

export const targetAt = (target: LoudnessUnits | ArrayLike<LoudnessUnits>, time: Seconds): LoudnessUnits =>
  typeof target === 'number' ? target : target[Math.min(target.length - 1, Math.round(time * RIDE_RATE))]!

/** Loudness every 100 ms over 400 ms, for drawing; -Infinity in silence. */
export function drawnLoudness(track: LoudnessTrack): Lufs[] {
  const points: Lufs[] = []
  for (let h = 0; h < track.length; h += 10) {
    points.push(stretchLoudness(track, Math.max(0, h * HOP - 0.2), h * HOP + 0.2))
  }
  return points
}
