import type { Pocket } from '@/core/lesson/document'
import type { LoudnessUnits } from '@/core/units'

/** So far under speech WCAG 2.2 (1.4.7) wants background sound: that is a level, and no pocket makes up for it. */
export const WCAG_CLEARANCE: LoudnessUnits = 20

/** What is left of a clearance where the music comes nearer for what its pocket gives. */
export const nearerUnder = (clearance: LoudnessUnits, { nearer }: Pick<Pocket, 'nearer'>): LoudnessUnits =>
  clearance >= WCAG_CLEARANCE ? clearance : clearance - nearer
