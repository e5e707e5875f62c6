import { levelToVoice } from '@/core/measure/takeVoice'
import type { MediaHash } from '@/core/lesson/document'
import type { PassageSpan, Timeline } from '@/core/lesson/timeline'
import { analysisLength, type Analysis } from '@/core/measure/analysis'
import { quietStretches, type QuietStretch } from '@/core/measure/quiet'
import { toSamples, type Decibels, type Seconds } from '@/core/units'
import type { AnalysisOf } from './mixPlan'
import { clipOf, type Clip } from './clip'

/** Where a passage begins or ends and nothing joins it, it fades this long, so that no click is heard. */
const EDGE: Seconds = 0.008
/** Two passages that meet are blended over this length, half of it on either side. */
const BLEND: Seconds = 0.02
/** Copies of a room's tone are blended over this length, so that no beat is heard in it. */
const TONE_BLEND: Seconds = 0.06

/** The voice: passages blended where they meet, and the room's own tone in the pauses between them. */
export function voiceClips(timeline: Timeline, analysisOf: AnalysisOf): Clip[] {
  const spans = timeline.passages
  const gains = takeGains(spans, analysisOf)
  return spans.flatMap((span, i) => {
    const gain = gains.get(span.sound) ?? 0
    const tone = roomTone(spans[i - 1], span, gain, analysisOf)
    return [...tone, voiceClip(spans[i - 1], span, spans[i + 1], gain, analysisOf)]
  })
}

function voiceClip(
  before: PassageSpan | undefined,
  span: PassageSpan,
  after: PassageSpan | undefined,
  gain: Decibels,
  analysisOf: AnalysisOf,
): Clip {
  const { passage, sound, start, end } = span
  const early = meets(before, span) ? blendRoom(before!, span, analysisOf) : 0
  const late = meets(span, after) ? blendRoom(span, after!, analysisOf) : 0
  return clipOf(sound, passage.from - early, start - early, end + late, {
    gain,
    fadeIn: isContinued(before, span) ? 0 : Math.max(EDGE, 2 * early),
    fadeOut: isContinued(span, after) ? 0 : Math.max(EDGE, 2 * late),
  })
}

/** Half the length of a blend, or 0 where one of the takes has nothing more on its side. */
function blendRoom(before: PassageSpan, after: PassageSpan, analysisOf: AnalysisOf): Seconds {
  const half = BLEND / 2
  const first = analysisOf(before.sound)
  const left = first ? analysisLength(first) - (before.passage.from + before.end - before.start) : 0
  const fits = left >= half && after.passage.from >= half && before.end - before.start > BLEND
  return fits && after.end - after.start > BLEND ? half : 0
}

/** Whether one passage follows the other at once, from another place in a take. */
function meets(before: PassageSpan | undefined, after: PassageSpan | undefined): boolean {
  if (!before || !after || isContinued(before, after)) return false
  return toSamples(before.end) === toSamples(after.start)
}

/** Whether one passage follows the other without a cut, in the take and in the lesson. */
function isContinued(first: PassageSpan | undefined, second: PassageSpan | undefined): boolean {
  if (!first || !second || first.sound !== second.sound) return false
  return (
    toSamples(first.end) === toSamples(second.start) && toSamples(first.passage.to) === toSamples(second.passage.from)
  )
}

/** The pause before a passage, filled with copies of the take's quietest stretch. */
function roomTone(
  before: PassageSpan | undefined,
  { passage, sound, step, start }: PassageSpan,
  gain: Decibels,
  analysisOf: AnalysisOf,
): Clip[] {
  const analysis = analysisOf(sound)
  if (passage.pause === 0 || !analysis) return []
  const quiet = longestQuiet(analysis)
  if (!quiet) return []
  const length = quiet.to - quiet.from
  const isInside = before?.step.id === step.id
  const end = start + TONE_BLEND / 2
  const clips: Clip[] = []
  for (
    let at = start - passage.pause - (isInside ? TONE_BLEND / 2 : 0);
    at < end - TONE_BLEND;
    at += length - TONE_BLEND
  ) {
    const to = Math.min(end, at + length)
    clips.push(clipOf(sound, quiet.from, at, to, { gain, fadeIn: TONE_BLEND, fadeOut: TONE_BLEND }))
  }
  return clips
}

const quietOf = new WeakMap<Analysis, QuietStretch | null>()
function longestQuiet(analysis: Analysis): QuietStretch | null {
  let quiet = quietOf.get(analysis)
  if (quiet === undefined) quietOf.set(analysis, (quiet = quietStretches(analysis)[0] ?? null))
  return quiet && quiet.to - quiet.from > 2 * TONE_BLEND ? quiet : null
}

/** Brings each take to the voice's level, so that takes from different days are equally loud. */
function takeGains(spans: readonly PassageSpan[], analysisOf: AnalysisOf): Map<MediaHash, Decibels> {
  const gains = new Map<MediaHash, Decibels>()
  for (const sound of new Set(spans.map((span) => span.sound))) {
    const analysis = analysisOf(sound)
    if (!analysis) continue
    gains.set(sound, levelToVoice(analysis))
  }
  return gains
}
