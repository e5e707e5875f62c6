import { layBed } from '@/core/bed/loop'
import { applyGain, rideBed, type GainTrack } from '@/core/bed/ride'
import type { Lesson, MediaHash } from '@/core/lesson/document'
import type { PassageSpan, Timeline } from '@/core/lesson/layout'
import type { Analysis } from '@/core/measure/analysis'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { integratedLoudness } from '@/core/measure/loudness'
import type { SpeechSegment } from '@/core/measure/speech'
import { clamp, toSamples, type Decibels, type DecibelsTruePeak, type SampleIndex, type Seconds } from '@/core/units'
import { clipOf, fadeFactor, type Clip } from './clip'
import { takeSpeech, voiceClips } from './voiceClips'

export type TrackName = 'voice' | 'bed' | 'sounds'
export const TRACK_NAMES: readonly TrackName[] = ['voice', 'bed', 'sounds']

/** Everything the renderer needs to make the lesson's sound, and nothing else. */
export interface MixPlan {
  length: SampleIndex
  clips: Record<TrackName, Clip[]>
  /** The ride (see bed/ride.ts), in dB at RIDE_RATE. */
  bedGain: GainTrack
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
}

export interface PlannedMix {
  plan: MixPlan
  levels: MixLevels
}

/** Where a recording's sound begins or ends it fades this long, so that no click is heard. */
const EDGE: Seconds = 0.008
const BED_FADE_IN: Seconds = 0.4
const BED_END_FADE = { shortest: 1, longest: 4 }
/** Kept free under the ceiling for what lossy coding adds. */
const CODING_MARGIN: Decibels = 0.5

export type AnalysisOf = (media: MediaHash) => Analysis | undefined

/** The mix of a lesson. Sounds whose analysis is not there yet are left out. */
export function planMix(lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): PlannedMix {
  const length = toSamples(timeline.length)
  const hops = Math.ceil(timeline.length / HOP)
  const clips = {
    voice: voiceClips(timeline, analysisOf),
    bed: [] as Clip[],
    sounds: recordingClips(timeline, analysisOf),
  }
  const voice = laidEnergy(clips.voice, hops, analysisOf)
  const speech = speechInLesson(timeline.passages, analysisOf)
  clips.bed = bedClips(timeline, speech, analysisOf)
  const bedRaw = laidEnergy(clips.bed, hops, analysisOf)
  const bedGain = rideBed(voice, bedRaw, speech, lesson.targets)
  const bed = applyGain(bedRaw, bedGain)
  const sounds = laidEnergy(clips.sounds, hops, analysisOf)
  const sum = voice.map((energy, i) => energy + bed[i]! + sounds[i]!)
  const loudness = integratedLoudness(sum)
  const gain = loudness === null ? 0 : clamp(lesson.targets.loudness - loudness, -40, 40)
  const ceiling = lesson.targets.truePeak - CODING_MARGIN
  return { plan: { length, clips, bedGain, gain, ceiling }, levels: { voice, bedRaw, bed, speech } }
}

/** Where the voice speaks in the lesson: each take's speech, cut and moved with its passages. */
export function speechInLesson(passages: readonly PassageSpan[], analysisOf: AnalysisOf): SpeechSegment[] {
  return passages.flatMap(({ passage, start, end }) => {
    const analysis = analysisOf(passage.media)
    if (!analysis) return []
    const to = passage.from + end - start
    return takeSpeech(analysis)
      .filter((segment) => segment.end > passage.from && segment.start < to)
      .map((segment) => ({
        start: start + Math.max(0, segment.start - passage.from),
        end: start + Math.min(to, segment.end) - passage.from,
      }))
  })
}

function bedClips(timeline: Timeline, speech: readonly SpeechSegment[], analysisOf: AnalysisOf): Clip[] {
  return timeline.beds.flatMap((bed) => {
    const piece = analysisOf(bed.cue.media)
    const length = bed.end - bed.start
    if (!piece || length <= 0) return []
    const lastWord = speech.findLast(({ end }) => end <= bed.end)?.end ?? bed.end
    const endFade = Math.min(length / 2, clamp(bed.end - lastWord, BED_END_FADE.shortest, BED_END_FADE.longest))
    return layBed(piece, length).map((run, i, runs) =>
      clipOf(bed.cue.media, run.from, bed.start + run.at, bed.start + run.at + run.to - run.from, {
        gain: 0,
        fadeIn: i === 0 ? Math.min(BED_FADE_IN, length / 2) : run.fadeIn,
        fadeOut: i === runs.length - 1 ? Math.min(endFade, run.to - run.from) : run.fadeOut,
      }),
    )
  })
}

/** A recording's own sound, where it is wanted: as long as its picture moves. */
function recordingClips(timeline: Timeline, analysisOf: AnalysisOf): Clip[] {
  return timeline.steps.flatMap(({ step: { picture }, start, end }) => {
    if (picture.kind !== 'recording' || picture.gain === null || !analysisOf(picture.media)) return []
    const stop = Math.min(end, start + picture.to - picture.from)
    return [clipOf(picture.media, picture.from, start, stop, { gain: picture.gain, fadeIn: EDGE, fadeOut: EDGE })]
  })
}

/** Energies of clips laid on lesson time. Overlapping clips add up as unrelated sounds do. */
export function laidEnergy(clips: readonly Clip[], hops: number, analysisOf: AnalysisOf): LoudnessTrack {
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
      const source = energy[Math.floor((clip.from + place) / hop)] ?? 0
      track[h]! += source * factor * fadeFactor(clip, place) ** 2
    }
  }
  return track
}
