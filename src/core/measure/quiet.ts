import type { Decibels, Seconds } from '@/core/units'
import type { Analysis } from './analysis'
import { HOP } from './energyMeter'
import { loudnessOf } from './loudness'

/** Where a take is quietest: the room alone. Times in the take. */
export interface QuietStretch {
  from: Seconds
  to: Seconds
}

/** Stretches shorter than this hold no noise that could be measured. */
const SHORTEST: Seconds = 0.12
/** Louder than the quietest tenth by more than this is a breath, a page or a word. */
const RANGE: Decibels = 6
/** So much is plenty. */
const ENOUGH: Seconds = 6

/** The quietest stretches of a take, the longest first. Digital silence tells nothing of a room and is left out. */
export function quietStretches({ energy }: Analysis): QuietStretch[] {
  const level = Float32Array.from(energy, (value) => (value > 1e-10 ? loudnessOf(value) : NaN))
  const limit = quietLimit(level)
  if (limit === null) return []
  const found: QuietStretch[] = []
  for (let i = 0; i < level.length; i++) {
    let to = i
    while (to < level.length && level[to]! <= limit) to++
    if ((to - i) * HOP >= SHORTEST) found.push({ from: i * HOP, to: to * HOP })
    i = Math.max(i, to)
  }
  found.sort((a, b) => b.to - b.from - (a.to - a.from))
  let total = 0
  return found.filter(({ from, to }) => {
    const wanted = total < ENOUGH
    total += to - from
    return wanted
  })
}

/** Level of the room's noise in a take, or null where there is none to be measured. */
export function roomNoise(analysis: Analysis): Decibels | null {
  const stretches = quietStretches(analysis)
  let sum = 0
  let hops = 0
  for (const { from, to } of stretches) {
    for (let h = Math.round(from / HOP); h < Math.round(to / HOP); h++, hops++) sum += analysis.energy[h]!
  }
  return hops === 0 ? null : loudnessOf(sum / hops)
}

function quietLimit(level: Float32Array): Decibels | null {
  const sorted = level.filter((value) => !Number.isNaN(value)).sort()
  return sorted.length === 0 ? null : sorted[Math.floor(sorted.length * 0.05)]! + RANGE
}
