import { clamp, type Decibels } from '@/core/units'
import { TICK, type Wishes } from './rideWishes'

/**
 * What a gain costs, in ticks of speech that lie outside the corridor: the louder side costs more, since a masked voice is
 * worse than a bed that is hard to hear. The figures were found on synthesised readings and made pieces; `npm run bench -- ride`
 * tells what each is worth.
 */

/** Costs are whole numbers: so many are one tick outside the corridor. */
const UNIT = 256
/** Turning round costs as much as 1.2 s outside the corridor. */
export const TURN = 12 * UNIT

/** The price of a move: steep ways are heard as pumping. In `gains` a tick. */
export const hasteOf = (change: Decibels): number => Math.round(UNIT * 0.012 * (change / TICK) ** 2)

/** Momentary loudness against its aim: free within so much, one tick's worth at the corridor's edge, little more beyond. */
const PHRASE = { free: 2.2, edge: 3.4, beyond: 0.3, louder: 2.9 }
const phraseCost = (off: Decibels) => {
  const far = Math.abs(off)
  if (far <= PHRASE.free) return 0
  const cost =
    far <= PHRASE.edge ? (far - PHRASE.free) / (PHRASE.edge - PHRASE.free) : 1 + PHRASE.beyond * (far - PHRASE.edge)
  return off > 0 ? cost * PHRASE.louder : cost
}

/** Short-term loudness against its aim: a gentle pull to the middle, a strong one from .75 dB on. */
const SENTENCE = { near: 0.75, pull: 0.03, hold: 0.4, louder: 1.8 }
const sentenceCost = (off: Decibels) => {
  const beyond = Math.max(0, Math.abs(off) - SENTENCE.near)
  const cost = SENTENCE.pull * Math.min(1, off * off) + SENTENCE.hold * Math.min(beyond * beyond, 4 * beyond)
  return off > 0 ? cost * SENTENCE.louder : cost
}

const SWELL_NEAR: Decibels = 0.5
const swellCost = (off: Decibels) => {
  const beyond = Math.max(0, Math.abs(off) - SWELL_NEAR)
  return 2 * Math.min(beyond, 1.5 + beyond / 4)
}

const ONSET_COST = 4 // a dB
const LANDING_COST = 5

/** Wishes are rounded to such a part of the step between two levels, so that what there is to pay is looked up. */
const PARTS = 8
/** No gain is further from a wish than this, and no wish further from 0 than half of it. */
const FURTHEST: Decibels = 160

/** Writes what each gain of a tick costs, from `at` on: `count` of them from `lowest` on, `step` apart. */
export function rideCosts({ sentence, phrase, swell, onset, landing }: Wishes, step: Decibels) {
  const reach = Math.ceil(FURTHEST / step)
  /** What it costs to be so many levels off, for each part of a level by which a wish lies above one. */
  const tableOf = (costOf: (off: Decibels) => number): Int32Array[] =>
    Array.from({ length: PARTS }, (_, part) =>
      Int32Array.from({ length: 2 * reach + 1 }, (_, i) => Math.round(UNIT * costOf((i - reach - part / PARTS) * step))),
    )
  const priced = [
    { wishes: phrase, table: tableOf(phraseCost) },
    { wishes: sentence, table: tableOf(sentenceCost) },
    { wishes: swell, table: tableOf(swellCost) },
    { wishes: onset, table: tableOf((off) => ONSET_COST * Math.max(0, off)) },
    { wishes: landing, table: tableOf((off) => LANDING_COST * Math.max(0, off)) },
  ]
  return (tick: number, lowest: number, count: number, into: Int32Array, at: number): void => {
    const end = at + count
    for (let i = at; i < end; i++) into[i] = 0
    for (const { wishes, table } of priced) {
      const wish = wishes[tick]!
      if (Number.isNaN(wish)) continue
      const parts = Math.round((clamp(wish, -FURTHEST / 2, FURTHEST / 2) / step) * PARTS)
      const level = Math.floor(parts / PARTS)
      const costs = table[parts - level * PARTS]!
      for (let i = at, k = lowest - level + reach; i < end; i++, k++) into[i]! += costs[k]!
    }
  }
}
