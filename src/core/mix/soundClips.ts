import type { Timeline } from '@/core/lesson/layout'
import { speedOf } from '@/core/lesson/motion'
import type { Seconds } from '@/core/units'
import { clipOf, type Clip } from './clip'
import type { AnalysisOf } from './plan'
import { levelToVoice } from './voiceClips'

/** Where a sound begins or ends it fades at least so long, so that no click is heard. */
const EDGE: Seconds = 0.008
/** A recording that plays at another speed than this share off its own is silent: its sound would not fit its picture. */
const SPEED_TOLERANCE = 0.005

/** Effects, each at its place and its own level. */
export function effectClips({ sounds }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return sounds
    .filter(({ cue }) => cue.track === 'effect' && analysisOf(cue.media))
    .map(({ cue, start, end }) => clipOf(cue.media, cue.from, start, end, { ...cue, ...edges(cue) }))
}

/** Second voices, as loud as the first. */
export function secondVoiceClips({ sounds }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return sounds.flatMap(({ cue, start, end }) => {
    const analysis = analysisOf(cue.media)
    if (cue.track !== 'voice' || !analysis) return []
    const gain = cue.gain + levelToVoice(analysis)
    return [clipOf(cue.media, cue.from, start, end, { gain, ...edges(cue) })]
  })
}

const edges = ({ fadeIn, fadeOut }: { fadeIn: Seconds; fadeOut: Seconds }) => ({
  fadeIn: Math.max(EDGE, fadeIn),
  fadeOut: Math.max(EDGE, fadeOut),
})

/** A recording's own sound, where it is wanted: as long as its picture moves. */
export function recordingClips({ pictures }: Timeline, analysisOf: AnalysisOf): Clip[] {
  return pictures.flatMap(({ picture, motions }) => {
    if (picture.kind !== 'recording' || picture.gain === null || !analysisOf(picture.media)) return []
    const { media, gain } = picture
    return motions
      .filter((motion) => Math.abs(speedOf(motion) - 1) < SPEED_TOLERANCE)
      .map(({ start, end, from }) => clipOf(media, from, start, end, { gain, fadeIn: EDGE, fadeOut: EDGE }))
  })
}
