import type { Seconds } from '@/core/units'

/**
 * As BBC subtitle guidelines, EBU-TT-D practice and WCAG 1.2.2 have it: at most two lines of so many letters, seen for so
 * long, at most so fast (letters a second), and so far apart that one sees them change.
 */
export interface CaptionRules {
  lineLength: number
  lines: 1 | 2
  shortest: Seconds
  longest: Seconds
  pace: number
  apart: Seconds
}

export const USUAL_RULES: CaptionRules = {
  lineLength: 42,
  lines: 2,
  shortest: 1,
  longest: 7,
  pace: 17,
  apart: 2 / 30,
}

/** A caption as far as rules of time ask. */
interface Seen {
  start: Seconds
  end: Seconds
  lines: readonly string[]
}

export const lettersOf = ({ lines }: { lines: readonly string[] }): number => lines.join(' ').length

/** What times are given in comes with errors of its own. */
const EXACT: Seconds = 1e-6

/** Captions that are seen too short to be read: more is said than their step has time for. */
export const tooShort = <T extends Seen>(captions: readonly T[], { shortest }: CaptionRules): T[] =>
  captions.filter(({ start, end }) => end - start < shortest - EXACT)

/** Captions that break a rule of time which can always be kept: they come too near to the next one, or stay too long. */
export const misplaced = <T extends Seen>(captions: readonly T[], { apart, longest }: CaptionRules): T[] =>
  captions.filter(({ start, end }, i) => {
    const next = captions[i + 1]
    return end <= start || end - start > longest + EXACT || (next !== undefined && next.start - end < apart - EXACT)
  })
