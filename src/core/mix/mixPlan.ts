import type { PocketPlan } from '@/core/bed/pocket'
import type { GainTrack } from '@/core/bed/ride'
import type { MediaHash, TrackName } from '@/core/lesson/document'
import type { Analysis } from '@/core/measure/analysis'
import type { LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Decibels, DecibelsTruePeak, SampleIndex, Seconds } from '@/core/units'
import type { Clip } from './clip'

/** Everything the renderer needs to make the lesson's sound, and nothing else. */
export interface MixPlan {
  length: SampleIndex
  clips: Record<TrackName, Clip[]>
  /** What is done to each track's level over time, in dB at RIDE_RATE; null: nothing. The bed's is the ride. */
  gains: Record<TrackName, GainTrack | null>
  /** Tracks that are not heard. */
  muted: TrackName[]
  /** What evens the strokes of the bed as it is laid, before its pocket and its ride. */
  strokes: GainTrack | null
  pocket: PocketPlan | null
  /** Gain on everything, so that the lesson has its loudness. */
  gain: Decibels
  ceiling: DecibelsTruePeak
}

/** What was known when the plan was made: levels over lesson time before `gain`, and where the voice speaks. */
export interface MixLevels {
  voice: LoudnessTrack
  /** The bed as laid out, before and after the ride. */
  bedRaw: LoudnessTrack
  bed: LoudnessTrack
  speech: SpeechSegment[]
  /** By what the finished mix is judged: as `speech`, or by the words where those are known (said.ts). */
  said: SpeechSegment[]
  /** Where music is to be heard. */
  music: { start: Seconds; end: Seconds }[]
  /** The clearance asked for, at RIDE_RATE: pieces may have one of their own. */
  clearance: GainTrack
  /** The ride alone, before what was added by hand. */
  ride: GainTrack
}

export interface PlannedMix {
  plan: MixPlan
  levels: MixLevels
}

export type AnalysisOf = (media: MediaHash) => Analysis | undefined

/** For comparing: the bed at one level throughout, the best one there is. */
export type BedWay = 'ridden' | 'plain'
