import { takeSpeech } from '@/core/measure/takeVoice'
import { fadeTrack } from '@/core/bed/fades'
import { nudgeTrack } from '@/core/bed/nudges'
import { evenStrokes } from '@/core/bed/strokes'
import { applyGain, rideBed, RIDE_RATE, type GainTrack } from '@/core/bed/ride'
import { TRACKS, type Lesson, type TrackName } from '@/core/lesson/document'
import type { PassageSpan, Timeline } from '@/core/lesson/timeline'
import type { SoundSpan } from '@/core/lesson/timeline'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { loudnessOfSteps, stepSums } from '@/core/measure/loudness'
import { mergeSegments, type SpeechSegment } from '@/core/measure/speech'
import { clamp, toFactor, toSamples, type Decibels, type Lufs } from '@/core/units'
import { bedClips, clearanceTrack } from './bedClips'
import type { Clip } from './clip'
import { createLaying, type Laying } from './laying'
import { VOICE_UNDER_CEILING } from './limiter'
import { nearerUnder } from './nearer'
import { planPocket, withPocket } from './pocketPlan'
import { effectClips, recordingClips, secondVoiceClips } from './soundClips'
import { voiceClips } from './voiceClips'
import type { AnalysisOf, BedWay, MixPlan, PlannedMix } from './mixPlan'

/** Kept free under the ceiling for what lossy coding adds. */
const CODING_MARGIN: Decibels = 0.5
/** The gain is right when another pass would change it by less than so much. */
const AGREED: Decibels = 0.05
const MOST_PASSES = 8
/** In pauses what is ducked comes back to its own level: no swell holds it down. */
const NO_SWELL = -40

export type PlanOf = (lesson: Lesson, timeline: Timeline, way?: BedWay) => PlannedMix

/** The mix of a lesson. Sounds whose analysis is not there yet are left out. */
export const planMix = (lesson: Lesson, timeline: Timeline, analysisOf: AnalysisOf): PlannedMix =>
  createPlanner(analysisOf)(lesson, timeline)

/** Plans the mix of a lesson again and again as it is edited: what lies as it lay the last time is not laid anew. */
export function createPlanner(analysisOf: AnalysisOf): PlanOf {
  const laying = createLaying(analysisOf)
  return (lesson, timeline, way = 'ridden') => plannedMix(lesson, timeline, { analysisOf, laying, way })
}

interface Means {
  analysisOf: AnalysisOf
  laying: Laying
  way: BedWay
}

function plannedMix(lesson: Lesson, timeline: Timeline, { analysisOf, laying, way }: Means): PlannedMix {
  const length = toSamples(timeline.length)
  const hops = Math.ceil(timeline.length / HOP)
  const count = Math.ceil(hops * HOP * RIDE_RATE) + 1
  const { tracks, targets } = lesson
  const speech = speechInLesson(timeline.passages, timeline.sounds, analysisOf)
  const clips: Record<TrackName, Clip[]> = {
    voice: louder([...voiceClips(timeline, analysisOf), ...secondVoiceClips(timeline, analysisOf)], tracks.voice.gain),
    recordings: louder(recordingClips(timeline, analysisOf), tracks.recordings.gain),
    sounds: louder(effectClips(timeline, analysisOf), tracks.sounds.gain),
    bed: bedClips(timeline, speech, analysisOf),
  }
  const energyOf = (name: TrackName) => laying.energyOf(name, clips[name], hops)
  const [spoken, recordings, sounds] = [energyOf('voice'), energyOf('recordings'), energyOf('sounds')]
  const ceiling = targets.truePeak - CODING_MARGIN
  const limited = laying.limitedVoice(spoken, clips.voice)
  const ceilingAt = (gain: Decibels) => toFactor(ceiling - VOICE_UNDER_CEILING - gain)
  const stepsAt = (gain: Decibels) => limited.stepsUnder(ceilingAt(gain))
  const stepsOf = (name: TrackName, energy: LoudnessTrack) => (clips[name].length === 0 ? [] : [stepSums(energy)])
  // The music adds little to the loudness: what the voice will be raised by is known before the ride is.
  const expected = gainWhileLimited(
    targets.loudness,
    stepsAt,
    [...stepsOf('recordings', recordings), ...stepsOf('sounds', sounds)],
    0,
  )
  const voice = limited.under(ceilingAt(expected))
  const duck = (name: TrackName, track: LoudnessTrack, under: number): GainTrack | null =>
    under === 0 || clips[name].length === 0 || track.every((energy) => energy === 0)
      ? null
      : rideBed(voice, track, speech, { ...targets, clearance: under, swell: NO_SWELL, highest: 0 })
  const laid = energyOf('bed')
  const strokes = lesson.evenStrokes ? evenStrokes(laid, speech, targets.pauseFrom) : null
  const bedRaw = strokes ? applyGain(laid, strokes) : laid
  const pocket = lesson.pocket.on ? planPocket(lesson, timeline, clips.bed, voice, bedRaw, speech, analysisOf) : null
  const inPocket = pocket ? withPocket(bedRaw, clips.bed, pocket, analysisOf) : bedRaw
  const asked = clearanceTrack(timeline, targets.clearance, count)
  const clearance = pocket ? asked.map((under) => nearerUnder(under, lesson.pocket)) : asked
  const ride = rideBed(voice, inPocket, speech, { ...targets, clearance })
  const computed = way === 'plain' ? ride.fill(medianWhileSpoken(ride, speech)) : ride
  const byHand = nudgeTrack(timeline.nudges, ride.length)
  const fades = fadeTrack(timeline.beds, ride.length)
  const gains: MixPlan['gains'] = {
    voice: null,
    recordings: duck('recordings', recordings, targets.recordingsUnder),
    sounds: duck('sounds', sounds, targets.effectsUnder),
    bed: computed.map((gain, i) => gain + byHand[i]! + fades[i]! + tracks.bed.gain),
  }
  const bed = applyGain(inPocket, gains.bed!)
  const muted = TRACKS.filter((name) => tracks[name].muted)
  const music = muted.includes('bed') ? [] : timeline.beds.map(({ start, end }) => ({ start, end }))
  const played: Record<TrackName, LoudnessTrack> = {
    voice,
    recordings: gains.recordings ? applyGain(recordings, gains.recordings) : recordings,
    sounds: gains.sounds ? applyGain(sounds, gains.sounds) : sounds,
    bed,
  }
  const heard = (name: TrackName) => !muted.includes(name)
  const rest = TRACKS.filter((name) => name !== 'voice' && heard(name)).flatMap((name) => stepsOf(name, played[name]))
  const gain = gainWhileLimited(targets.loudness, heard('voice') ? stepsAt : null, rest, expected)
  return {
    plan: { length, clips, gains, muted, strokes, pocket, gain, ceiling },
    levels: { voice, bedRaw, bed, speech, said: speech, music, clearance, ride },
  }
}

function medianWhileSpoken(ride: GainTrack, speech: readonly SpeechSegment[]): Decibels {
  const spoken = speech.flatMap(({ start, end }) => [
    ...ride.subarray(Math.round(start * RIDE_RATE), Math.round(end * RIDE_RATE)),
  ])
  return spoken.sort((a, b) => a - b)[spoken.length >> 1] ?? 0
}

const louder = (clips: Clip[], by: Decibels): Clip[] =>
  by === 0 ? clips : clips.map((clip) => ({ ...clip, gain: clip.gain + by }))

/**
 * What brings voice and rest (their step sums) together to a loudness. What raises the mix lets its voice be limited
 * more, which makes it softer again: from a guess to the gain at which both agree.
 */
function gainWhileLimited(
  target: Lufs,
  voiceAt: ((gain: Decibels) => Float64Array) | null,
  rest: readonly Float64Array[],
  guess: Decibels,
): Decibels {
  const gainTo = (heard: readonly Float64Array[]) => {
    const loudness = loudnessOfSteps(summed(heard))
    return loudness === null ? 0 : clamp(target - loudness, -40, 40)
  }
  if (!voiceAt) return gainTo(rest)
  let gain = guess
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    const before = gain
    gain = gainTo([voiceAt(before), ...rest])
    if (Math.abs(gain - before) < AGREED) break
  }
  return gain
}

/** Energies of sounds that are heard together. */
function summed(energies: readonly Float64Array[]): Float64Array {
  const [first = new Float64Array(0), ...others] = energies
  const out = first.slice()
  for (const one of others) for (let i = 0; i < out.length; i++) out[i]! += one[i]!
  return out
}

/** Where somebody speaks in the lesson: each take's speech, cut and moved with its passages, and second voices. */
export function speechInLesson(
  passages: readonly PassageSpan[],
  sounds: readonly SoundSpan[],
  analysisOf: AnalysisOf,
): SpeechSegment[] {
  const parts = passages.map(({ passage, sound, start, end }) => ({ media: sound, from: passage.from, start, end }))
  for (const { cue, start, end } of sounds)
    if (cue.track === 'voice') parts.push({ media: cue.media, from: cue.from, start, end })
  const speech = parts.flatMap(({ media, from, start, end }) => {
    const analysis = analysisOf(media)
    if (!analysis) return []
    const to = from + end - start
    return takeSpeech(analysis)
      .filter((segment) => segment.end > from && segment.start < to)
      .map((segment) => ({
        start: start + Math.max(0, segment.start - from),
        end: start + Math.min(to, segment.end) - from,
      }))
  })
  return speech.length === 0 || parts.length === passages.length ? speech : mergeSegments(speech)
}
