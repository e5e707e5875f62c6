import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Decibels, Seconds } from '@/core/units'

/** How much a hand moved on the music, as finished stems show it. */
export interface RideMotion {
  /** Changes of direction by at least 1.5 dB, a minute. */
  turns: number
  /** Two turns of at least 1 dB within 3 s while somebody speaks, a minute: what is heard as pumping. */
  bumps: number
}

const STEP: Seconds = 0.1
const STEP_HOPS = Math.round(STEP / HOP)
const TURN: Decibels = 1.5
const BUMP: { least: Decibels; within: Seconds } = { least: 1, within: 3 }
/** Softer than this nothing can be said about a gain. */
const SILENCE = 1e-10

/** `ungained`: the bed as it comes to its gain. What its pocket takes out of it is no motion. */
export function rideMotion(ungained: LoudnessTrack, bed: LoudnessTrack, speech: readonly SpeechSegment[]): RideMotion {
  const gain = gainOfStems(ungained, bed)
  const minutes = (gain.length * STEP) / 60
  if (minutes === 0) return { turns: 0, bumps: 0 }
  return { turns: turnsOf(gain, TURN).length / minutes, bumps: bumpsOf(gain, speech) / minutes }
}

/** What was done to a bed, in dB every 100 ms; the last known where it is silent. */
export function gainOfStems(ungained: LoudnessTrack, bed: LoudnessTrack): Decibels[] {
  const gain: Decibels[] = []
  for (let h = 0; h + STEP_HOPS <= ungained.length; h += STEP_HOPS) {
    const [before, after] = [sumOf(ungained, h), sumOf(bed, h)]
    gain.push(before > SILENCE && after > SILENCE ? 10 * Math.log10(after / before) : (gain.at(-1) ?? 0))
  }
  return gain
}

const sumOf = (track: LoudnessTrack, from: number) =>
  track.subarray(from, from + STEP_HOPS).reduce((sum, energy) => sum + energy, 0)

/** When a gain changes its direction, the way back being at least so much. */
export function turnsOf(gain: readonly Decibels[], least: Decibels): Seconds[] {
  const found: Seconds[] = []
  let direction = 0
  let [highest, lowest] = [0, 0]
  gain.forEach((value, i) => {
    if (value >= gain[highest]!) highest = i
    if (value <= gain[lowest]!) lowest = i
    const sinks = direction >= 0 && gain[highest]! - value >= least
    const rises = direction <= 0 && value - gain[lowest]! >= least
    if (!sinks && !rises) return
    // The first move only says which way it goes.
    if (direction !== 0) found.push((sinks ? highest : lowest) * STEP)
    direction = sinks ? -1 : 1
    highest = lowest = i
  })
  return found
}

const bumpsOf = (gain: readonly Decibels[], speech: readonly SpeechSegment[]): number =>
  turnsOf(gain, BUMP.least).filter(
    (at, i, all) => i > 0 && at - all[i - 1]! < BUMP.within && speech.some(({ start, end }) => at >= start && at < end),
  ).length
