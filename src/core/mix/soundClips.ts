import { levelToVoice } from '@/core/measure/takeVoice'
import type { SoundSpan, Timeline } from '@/core/lesson/timeline'
import { speedOf, type Motion } from '@/core/picture/motion'
import type { Analysis } from '@/core/measure/analysis'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { Decibels, Seconds } from '@/core/units'
import { clipOf, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'

/** Where a sound begins or ends it fades at least so long, so that no click is heard. */
const EDGE: Seconds = 0.008
/** Over which a sound that the lesson's end cuts off fades. */
const LAST_FADE: Seconds = 0.5
/** So little off its own speed a recording's sound is left as it is: its pitch changes by less than anyone hears. */
const SPEED_TOLERANCE = 0.005
/** Sound at another speed is stretched in parts of about this length. */
const STRETCH: { shortest: Seconds; longest: Seconds } = { shortest: 1, longest: 2 }

/** Effects, each at its place and its own level. */
export function effectClips({ sounds, length }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return sounds
    .filter(({ cue }) => cue.track === 'effect' && analysisOf(cue.media))
    .map((span) => soundClip(span, length, span.cue.gain))
}

/** Second voices, as loud as the first. */
export function secondVoiceClips({ sounds, length }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return sounds.flatMap((span) => {
    const { cue } = span
    const analysis = analysisOf(cue.media)
    if (cue.track !== 'voice' || !analysis) return []
    return [soundClip(span, length, cue.gain + levelToVoice(analysis))]
  })
}

/** A sound that is longer than what is left of the lesson ends with it, faded. */
function soundClip({ cue, start, end }: SoundSpan, length: Seconds, gain: Decibels): Clip {
  const least = end > length ? Math.min(LAST_FADE, (length - start) / 2) : EDGE
  return clipOf(cue.media, cue.from, start, Math.min(end, length), {
    gain,
    fadeIn: Math.max(EDGE, cue.fadeIn),
    fadeOut: Math.max(least, cue.fadeOut),
  })
}

/** A recording's own sound, where it is wanted: as long as its picture moves, and as fast. */
export function recordingClips({ pictures }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return pictures.flatMap(({ picture, motions }) => {
    if (picture.kind !== 'recording' || picture.gain === null) return []
    const { media, gain } = picture
    const analysis = analysisOf(media)
    if (!analysis) return []
    return motions
      .filter((motion) => speedOf(motion) > 0)
      .flatMap((motion) => (isOwnSpeed(motion) ? [motion] : inStretches(motion, analysis)))
      .map((motion) => {
        const speed = isOwnSpeed(motion) ? 1 : speedOf(motion)
        return clipOf(media, motion.from, motion.start, motion.end, { gain, speed, fadeIn: EDGE, fadeOut: EDGE })
      })
  })
}

const isOwnSpeed = (motion: Motion) => Math.abs(speedOf(motion) - 1) < SPEED_TOLERANCE

/** Parts of a motion that are stretched each by itself: they meet where the sound is quietest, and blend there. */
function inStretches(motion: Motion, { energy }: Analysis): Motion[] {
  const speed = speedOf(motion)
  const [least, most] = [STRETCH.shortest * speed, STRETCH.longest * speed]
  const parts: Motion[] = []
  let { start, from } = motion
  while (motion.to - from > most + least) {
    const to = quietest(energy, from + least, from + most)
    const end = start + (to - from) / speed
    parts.push({ start, end: end + EDGE, from, to: to + EDGE * speed })
    ;[start, from] = [end, to]
  }
  return [...parts, { ...motion, start, from }]
}

function quietest(energy: LoudnessTrack, from: Seconds, to: Seconds): Seconds {
  const first = Math.round(from / HOP)
  const stretch = energy.subarray(first, Math.round(to / HOP))
  return (first + stretch.indexOf(Math.min(...stretch))) * HOP
}
