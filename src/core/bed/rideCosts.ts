import { clamp, type Decibels } from '@/core/units'
import { FREE, type Prices } from './cheapestPath'
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

/** What gains cost that are `step` apart, by the wishes as they are when it is asked; but for the sentences' they don't change. */
export function ridePrices(step: Decibels, wishes: Wishes): () => Prices[] {
  const sentence = priced(sentenceCost, step)
  const others = [
    priced(phraseCost, step)(wishes.phrase),
    priced(swellCost, step)(wishes.swell),
    priced((off) => ONSET_COST * Math.max(0, off), step)(wishes.onset),
    priced((off) => LANDING_COST * Math.max(0, off), step)(wishes.landing),
  ]
  return () => [sentence(wishes.sentence), ...others]
}

function priced(costOf: (off: Decibels) => number, step: Decibels): (wishes: Float64Array) => Prices {
  const reach = Math.ceil(FURTHEST / step)
  const row = 2 * reach + 1
  // A row for each part of a level by which a wish may lie above one: what it costs to be so many levels off.
  const table = new Int32Array(PARTS * row)
  for (let part = 0; part < PARTS; part++)
    for (let off = -reach; off <= reach; off++)
      table[part * row + reach + off] = Math.round(UNIT * costOf((off - part / PARTS) * step))
  return (wishes) => {
    const at = new Int32Array(wishes.length).fill(FREE)
    for (let tick = 0; tick < wishes.length; tick++) {
      const wish = wishes[tick]!
      if (Number.isNaN(wish)) continue
      const parts = Math.round((clamp(wish, -FURTHEST / 2, FURTHEST / 2) / step) * PARTS)
      const level = Math.floor(parts / PARTS)
      at[tick] = (parts - level * PARTS) * row + reach - level
    }
    return { table, at }
  }
}
