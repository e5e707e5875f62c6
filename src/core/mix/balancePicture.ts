import { meanSpectrum, pocketPower, type Dip } from '@/core/bed/pocket'
import { RIDE_RATE } from '@/core/bed/ride'
import type { Lesson } from '@/core/lesson/document'
import { stepAt } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import { BAND_CENTRES } from '@/core/measure/bands'
import { integratedLoudness } from '@/core/measure/loudness'
import { joinSegments } from '@/core/measure/speech'
import { FIRST_IMPORTANT, BAND_IMPORTANCE, speechIndex } from '@/core/measure/speechIndex'
import type { Decibels, Hertz, LoudnessUnits, Seconds } from '@/core/units'
import { bedSeams, type Seam } from './bedClips'
import { clearanceReadings, CORRIDOR, targetAt, type ClearanceReading } from './balanceSheet'
import type { AnalysisOf, PlannedMix } from './mixPlan'
import { voiceSpectra } from './pocketPlan'

/** A stretch over which the clearance is furthest from what was asked for. */
export interface WorstMoment {
  from: Seconds
  to: Seconds
  step: string | null
  /** At its worst. */
  clearance: LoudnessUnits
  target: LoudnessUnits
}

/** All that the balance view draws, besides what every view has of the mix. */
export interface BalancePicture {
  /** Where the bed must stay while the voice speaks: one reading a tenth of a second, in LUFS of the finished mix. */
  corridor: { at: Seconds; low: number; high: number }[]
  worst: WorstMoment[]
  /** Where the music goes round or leaves a part out. */
  seams: Seam[]
  /** The ride and the line made by hand, in dB at RIDE_RATE. */
  ride: Float32Array
  byHand: { id: string; at: Seconds; gain: Decibels }[]
  /** Third-octave levels of voice and bed while the voice speaks, and of the bed after its pocket; null without either. */
  spectrum: { bands: Hertz[]; voice: Decibels[]; bed: Decibels[]; dipped: Decibels[] } | null
  dips: Dip[]
  /** Extended speech intelligibility index with and without the pocket, and what the pocket is worth in clearance. */
  index: { plain: number; dipped: number; worth: LoudnessUnits } | null
}

const MOMENTS = 5
/** Readings closer together than this belong to one moment. */
const TOGETHER: Seconds = 1.5

export function drawBalance(
  lesson: Lesson,
  timeline: Timeline,
  { plan, levels }: PlannedMix,
  analysisOf: AnalysisOf,
): BalancePicture {
  const readings = clearanceReadings(levels.voice, levels.bed, levels.speech)
  const corridor = corridorOf(levels, plan.gain)
  const spectrum = spectraOf(lesson, timeline, { plan, levels }, analysisOf)
  return {
    corridor,
    seams: bedSeams(timeline, analysisOf),
    worst: worstMoments(readings, levels.clearance, timeline),
    ride: levels.ride,
    byHand: timeline.nudges.map(({ nudge, at }) => ({ id: nudge.id, at, gain: nudge.gain })),
    spectrum,
    dips: plan.pocket?.dips ?? [],
    index: spectrum && indexOf(spectrum),
  }
}

function corridorOf({ voice, speech, clearance }: PlannedMix['levels'], gain: Decibels): BalancePicture['corridor'] {
  const silence = new Float32Array(voice.length).fill(1e-6)
  // Against a bed of known level the readings give the voice's own level: its loudness less that of the silence.
  const base = 10 * Math.log10(1e-6) - 0.691
  return clearanceReadings(voice, silence, speech).map(({ at, clearance: above }) => {
    const middle = base + above + gain - targetAt(clearance, at)
    return { at, low: middle - CORRIDOR, high: middle + CORRIDOR }
  })
}

function worstMoments(
  readings: readonly ClearanceReading[],
  target: ArrayLike<number>,
  timeline: Timeline,
): WorstMoment[] {
  const off = ({ at, clearance }: ClearanceReading) => Math.abs(clearance - targetAt(target, at))
  const moments: (WorstMoment & { off: number })[] = []
  for (const reading of [...readings].sort((a, b) => off(b) - off(a))) {
    const near = moments.find(({ from, to }) => reading.at > from - TOGETHER && reading.at < to + TOGETHER)
    if (near) {
      near.from = Math.min(near.from, reading.at)
      near.to = Math.max(near.to, reading.at)
    } else if (moments.length < MOMENTS) {
      const { at, clearance } = reading
      const step = stepAt(timeline, at)?.step.id ?? null
      moments.push({ from: at, to: at, step, clearance, target: targetAt(target, at), off: off(reading) })
    } else break
  }
  return moments.map(({ off: _, ...moment }) => moment)
}

function spectraOf(
  lesson: Lesson,
  timeline: Timeline,
  { plan, levels }: PlannedMix,
  analysisOf: AnalysisOf,
): BalancePicture['spectrum'] {
  const voices = voiceSpectra(timeline, analysisOf)
  const bed = bedUnderVoice(plan, levels, analysisOf)
  if (!voices || !bed) return null
  const dips = plan.pocket?.dips ?? []
  const inMix = (spectrum: ArrayLike<number>) => Array.from(spectrum, (level) => level + plan.gain)
  return {
    bands: [...BAND_CENTRES],
    voice: inMix(voices.voice),
    bed: inMix(bed),
    dipped: inMix(bed.map((level, band) => level + 10 * Math.log10(pocketPower(dips, BAND_CENTRES[band]!, 1)))),
  }
}

/** The bed's bands at the level they have under the voice. */
function bedUnderVoice(plan: PlannedMix['plan'], levels: PlannedMix['levels'], analysisOf: AnalysisOf) {
  const media = plan.clips.bed[0]?.media
  const analysis = media && analysisOf(media)
  const raw = analysis ? meanSpectrum(analysis.bands, () => true) : null
  const laid = integratedLoudness(levels.bedRaw)
  if (!raw || laid === null) return null
  const gains = joinSegments(levels.speech, 0.3).flatMap(({ start, end }) => [
    ...plan.gains.bed!.subarray(Math.round(start * RIDE_RATE), Math.round(end * RIDE_RATE)),
  ])
  if (gains.length === 0) return null
  const gain = gains.sort((a, b) => a - b)[gains.length >> 1]!
  return raw.map((level) => level + gain)
}

/** How much softer the undipped bed would have to be for the same index. */
function indexOf({ voice, bed, dipped }: NonNullable<BalancePicture['spectrum']>): BalancePicture['index'] {
  const [plain, better] = [speechIndex(voice, bed), speechIndex(voice, dipped)]
  let worth = 0
  while (
    worth < 12 &&
    speechIndex(
      voice,
      bed.map((level) => level - worth),
    ) <
      better - 1e-6
  )
    worth += 0.1
  return { plain, dipped: better, worth }
}

/** Bands that matter for understanding, for drawing. */
export const DRAWN_BANDS = { first: FIRST_IMPORTANT - 2, last: FIRST_IMPORTANT + BAND_IMPORTANCE.length + 1 }
