import { isBlended } from '@/core/bed/fades'
import { layBed, seamsOf, soundingStart, type BedRun } from '@/core/bed/loop'
import { RIDE_RATE, type GainTrack } from '@/core/bed/ride'
import type { BedSpan, Timeline } from '@/core/lesson/timeline'
import { analysisLength, partOfAnalysis, type Analysis } from '@/core/measure/analysis'
import type { SpeechSegment } from '@/core/measure/speech'
import { clamp, type LoudnessUnits, type Seconds } from '@/core/units'
import { clipOf, type Clip } from './clip'
import type { AnalysisOf } from './mixPlan'

const BED_FADE_IN: Seconds = 0.4
/** Where the author has set a fade the clip itself is only kept from clicking, see fades.ts. */
const EDGE: Seconds = 0.02
const BED_END_FADE = { shortest: 1, longest: 4 }

/** The music of a lesson: each piece made to fit its stretch, blended into the next where the author wants it. */
export function bedClips(timeline: Timeline, speech: readonly SpeechSegment[], analysisOf: AnalysisOf): Clip[] {
  return laidBeds(timeline, analysisOf).flatMap(({ bed, from, runs, blend, fadeIn }) => {
    const fadeOut = blend > 0 ? blend : bed.cue.fadeOut === null ? endFade(bed, speech) : EDGE
    const length = bed.end + blend - bed.start
    return runs.map((run, r) =>
      clipOf(bed.cue.media, from + run.from, bed.start + run.at, bed.start + run.at + run.to - run.from, {
        gain: 0,
        fadeIn: r === 0 ? Math.min(fadeIn, length / 2) : run.fadeIn,
        fadeOut: r === runs.length - 1 ? Math.min(fadeOut, run.to - run.from) : run.fadeOut,
      }),
    )
  })
}

interface LaidBed {
  bed: BedSpan
  /** Where in the file its part begins. */
  from: Seconds
  piece: Analysis
  runs: BedRun[]
  /** How long it sounds on into the next piece. */
  blend: Seconds
  fadeIn: Seconds
}

function laidBeds(timeline: Timeline, analysisOf: AnalysisOf): LaidBed[] {
  return timeline.beds.flatMap((bed, i) => {
    const part = partOf(bed, analysisOf)
    const [before, next] = [timeline.beds[i - 1], timeline.beds[i + 1]]
    const blend = next && isBlended(bed, next) ? Math.min(next.cue.blend, (next.end - next.start) / 2) : 0
    const length = bed.end + blend - bed.start
    if (!part || length <= 0) return []
    const fadeIn = isBlended(before, bed) ? bed.cue.blend : bed.cue.fadeIn === null ? BED_FADE_IN : EDGE
    return [{ bed, ...part, runs: layBed(part.piece, length), blend, fadeIn }]
  })
}

/** A place where a piece goes round or leaves a part out; from about 9 on the score says that it is heard. */
export interface Seam {
  at: Seconds
  score: number
}

/** Every seam in the music of a lesson, in lesson time. */
export const bedSeams = (timeline: Timeline, analysisOf: AnalysisOf): Seam[] =>
  laidBeds(timeline, analysisOf).flatMap(({ bed, piece, runs }) =>
    seamsOf(piece, runs).map(({ at, score }) => ({ at: bed.start + at, score })),
  )

/** The part of a piece that is used, without what is silent before it begins. */
function partOf({ cue }: BedSpan, analysisOf: AnalysisOf): Pick<LaidBed, 'from' | 'piece'> | undefined {
  const whole = analysisOf(cue.media)
  if (!whole) return
  const end = analysisLength(whole)
  const [from, to] = [Math.max(cue.from, soundingStart(whole)), Math.min(cue.to ?? end, end)]
  if (from === 0 && cue.to === null) return { from, piece: whole }
  return from < to ? { from, piece: partOfAnalysis(whole, from, to) } : undefined
}

/** The music ends with the picture: it fades from the last word on, within bounds. */
function endFade(bed: BedSpan, speech: readonly SpeechSegment[]): Seconds {
  const lastWord = speech.findLast(({ end }) => end <= bed.end)?.end ?? bed.end
  return Math.min((bed.end - bed.start) / 2, clamp(bed.end - lastWord, BED_END_FADE.shortest, BED_END_FADE.longest))
}

/** The clearance asked for over the lesson: a piece's own, or the lesson's. */
export function clearanceTrack({ beds }: Timeline, clearance: LoudnessUnits, count: number): GainTrack {
  const track = new Float32Array(count).fill(clearance)
  for (const { cue, start, end } of beds) {
    if (cue.clearance !== null) track.fill(cue.clearance, Math.round(start * RIDE_RATE), Math.round(end * RIDE_RATE))
  }
  return track
}
