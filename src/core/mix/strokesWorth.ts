import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { clearanceReadings, corridorShares } from './balanceSheet'
import type { AnalysisOf, MixLevels } from './mixPlan'
import { planMix } from './plan'

/** Short enough that the strokes of music are heard one by one (momentary loudness, EBU Tech 3341). */
const MOMENT = 0.4 // s

/** Share of what is said in which the music is near its clearance from one moment to the next: as it is, and with even strokes. */
export interface StrokesWorth {
  now: number
  even: number
}

/** What evening the strokes of the music would bring; null where nobody speaks over music, or they are even already. */
export function strokesWorth(
  lesson: Lesson,
  timeline: Timeline,
  levels: MixLevels,
  analysisOf: AnalysisOf,
): StrokesWorth | null {
  const now = momentsWithin(levels)
  if (lesson.evenStrokes || now === null) return null
  const even = momentsWithin(planMix({ ...lesson, evenStrokes: true }, timeline, analysisOf).levels)
  return even === null ? null : { now, even }
}

export const momentsWithin = ({ voice, bed, speech, clearance }: MixLevels): number | null =>
  corridorShares(clearanceReadings(voice, bed, speech, [], MOMENT), clearance).within
