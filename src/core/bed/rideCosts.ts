import type { Decibels } from '@/core/units'
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

/** Writes what each gain of a tick costs: `count` of them from `lowest` on, `step` apart. */
export function rideCosts({ sentence, phrase, swell, onset, landing }: Wishes, step: Decibels) {
  return (tick: number, lowest: number, count: number, into: Int32Array): void => {
    const wanted = sentence[tick]!
    const now = phrase[tick]!
    const high = swell[tick]!
    const cap = onset[tick]!
    const down = landing[tick]!
    for (let i = 0; i < count; i++) {
      const gain = (lowest + i) * step
      let cost = 0
      if (now === now) cost += phraseCost(gain - now)
      if (wanted === wanted) cost += sentenceCost(gain - wanted)
      if (high === high) cost += swellCost(gain - high)
      if (gain > cap) cost += ONSET_COST * (gain - cap)
      if (gain > down) cost += LANDING_COST * (gain - down)
      into[i] = Math.round(UNIT * cost)
    }
  }
}
