import { meanSpectrum, pocketPower, type Dip, type Spectrum } from '@/core/bed/pocket'
import { RIDE_RATE } from '@/core/bed/ride'
import type { Lesson } from '@/core/lesson/document'
import { stepAt } from '@/core/lesson/layout'
import type { Timeline } from '@/core/lesson/timeline'
import { BAND_CENTRES } from '@/core/measure/bands'
import { kWeightingPower } from '@/core/measure/kWeighting'
import { integratedLoudness } from '@/core/measure/loudness'
import { joinSegments } from '@/core/measure/speech'
import { FIRST_IMPORTANT, BAND_IMPORTANCE, speechIndex } from '@/core/measure/speechIndex'
import type { Decibels, Hertz, LoudnessUnits, Seconds } from '@/core/units'
import { bedSeams, type Seam } from './bedClips'
import { clearanceReadings, CORRIDOR, targetAt, type ClearanceReading } from './balanceSheet'
import type { AnalysisOf, PlannedMix } from './mixPlan'
import { nearerUnder } from './nearer'
import { spokenMoments, voiceSpectra } from './pocketPlan'

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
  /**
   * Third-octave levels while the voice speaks: of the voice, of the bed as it is, and as it would be without its pocket;
   * null without either.
   */
  spectrum: { bands: Hertz[]; voice: Decibels[]; bed: Decibels[]; plain: Decibels[] } | null
  dips: Dip[]
  /** Speech index as it is, and without the pocket; and how much nearer the music can be for it (0: it can't). */
  index: { dipped: number; plain: number; worth: LoudnessUnits } | null
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
  const nearer = plan.pocket ? lesson.targets.clearance - nearerUnder(lesson.targets.clearance, lesson.pocket) : 0
  const spectrum = spectraOf(timeline, { plan, levels }, nearer, analysisOf)
  return {
    corridor,
    seams: bedSeams(timeline, analysisOf),
    worst: worstMoments(readings, levels.clearance, timeline),
    ride: levels.ride,
    byHand: timeline.nudges.map(({ nudge, at }) => ({ id: nudge.id, at, gain: nudge.gain })),
    spectrum,
    dips: plan.pocket?.dips ?? [],
    index: spectrum && indexOf(spokenMoments(timeline, analysisOf), plan.gain, spectrum, nearer),
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

/** `nearer`: by how much the bed is nearer for its pocket. */
function spectraOf(
  timeline: Timeline,
  { plan, levels }: PlannedMix,
  nearer: LoudnessUnits,
  analysisOf: AnalysisOf,
): BalancePicture['spectrum'] {
  const voices = voiceSpectra(timeline, analysisOf)
  const bed = bedUnderVoice(plan, levels, analysisOf)
  if (!voices || !bed) return null
  const dips = plan.pocket?.dips ?? []
  const dipped = bed.map((level, band) => level + 10 * Math.log10(pocketPower(dips, BAND_CENTRES[band]!, 1)))
  // The ride has made up for what the dips take away.
  const softer = loudnessOfBands(bed) - loudnessOfBands(dipped) + nearer
  const inMix = (spectrum: ArrayLike<number>) => Array.from(spectrum, (level) => level + plan.gain)
  return {
    bands: [...BAND_CENTRES],
    voice: inMix(voices.voice),
    bed: inMix(dipped),
    plain: inMix(bed.map((level) => level - softer)),
  }
}

const WEIGHTS = BAND_CENTRES.map((centre) => kWeightingPower(centre))
/** Up to a constant. */
const loudnessOfBands = (levels: Spectrum): LoudnessUnits =>
  10 * Math.log10(levels.reduce((sum, level, band) => sum + WEIGHTS[band]! * 10 ** (level / 10), 0))

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

/** By listening models that follow speech in time (STOI) a pocket gives so much of what the index says. */
const BY_STOI = 0.7
const MOST_WORTH: LoudnessUnits = 6

/**
 * What the pocket is worth: how much softer the bed would have to be without it for the same extended index, moment by moment
 * of what is said: soft sounds are covered long before the voice's mean is.
 */
function indexOf(
  moments: readonly Spectrum[],
  gain: Decibels,
  { bed, plain }: NonNullable<BalancePicture['spectrum']>,
  nearer: LoudnessUnits,
): BalancePicture['index'] {
  if (moments.length === 0) return null
  const under = (cover: readonly Decibels[], softer: LoudnessUnits) => {
    const covered = cover.map((level) => level - gain - softer)
    return moments.reduce((sum, moment) => sum + speechIndex(moment, covered), 0) / moments.length
  }
  const dipped = under(bed, 0)
  let softer = 0
  while (softer < MOST_WORTH / BY_STOI && under(plain, softer - nearer) < dipped - 1e-6) softer += 0.1
  return { dipped, plain: under(plain, 0), worth: softer * BY_STOI }
}

/** Bands that matter for understanding, for drawing. */
export const DRAWN_BANDS = { first: FIRST_IMPORTANT - 2, last: FIRST_IMPORTANT + BAND_IMPORTANCE.length + 1 }
