import { clamp } from '@/core/units'
import { advantageOver } from './advantage'
import type { TakeFrames } from './path'
import type { Reference } from './reference'
import { shapesOf, type Shape } from './shape'
import type { Visit } from './visits'

/**
 * Whether somebody really says what a path found. A path finds something in any recording: it takes the cheapest way, and
 * how cheap that is depends on the voice and the room. So each visit is asked how much better it fits its own words than
 * others (advantage.ts), and whether it lies in the take as a saying does (shape.ts). How clearly what is said shows, and
 * whether this reader pauses between sentences, is taken from the run itself, by turns with what is believed
 * (expectation-maximisation, Dempster, Laird & Rubin 1977). Neighbours are heard out, and may add less than a visit's own
 * evidence (forward-backward over two states, after Rabiner, 1989).
 */
export function beliefs(
  visits: readonly Visit[],
  path: Int32Array,
  take: TakeFrames,
  reference: Reference,
): Map<Visit, number> {
  const advantages = visits.map(advantageOver(take, reference))
  const shapes = shapesOf(visits, path, take, reference)
  let reader = UNHEARD
  let odds: number[] = []
  for (let turn = 0; turn < TURNS; turn++) {
    odds = visits.map((visit, i) => logOdds(visit, advantages[i]!, shapes[i]!, reader))
    reader = readerOf(advantages, shapes, odds.map(probability))
  }
  const smooth = withNeighbours(odds)
  return new Map(visits.map((visit, i) => [visit, probability(smooth[i]!)]))
}

/** How a reader is heard to read. */
interface Reader {
  /** How much better what is said fits its own words. */
  advantage: number
  /** The share of sentences' ends at which there is a pause. */
  pauses: number
  /** The share of visits that are believed. */
  said: number
}

/*
 * Measured on people in five languages, four synthesised readers, clean and with noise of 10 dB, each with its own script and
 * with a wrong one (`npm run bench -- align`).
 */
const TURNS = 3
const UNHEARD: Reader = { advantage: 0.095, pauses: 0.91, said: 0.8 }
/** So many of the believed ones fit worse than what is taken as this reader's advantage. */
const QUANTILE = 0.7
const MOST_ADVANTAGE = 0.16
/** What is heard before counts like so many visits. */
const PRIOR = 10

/** Advantages of what is said spread by a share of their level, those of what is not around this. */
const SAID_SPREAD = { share: 0.7, least: 0.012 }
const UNSAID = { advantage: 0.027, spread: 0.028 }
const MOST_FROM_ADVANTAGE = 2.2
/** Logarithms of the pace against the usual one: of what is said, and of what is not. */
const PACE = { said: 0.1, unsaid: 0.17, most: 1.6 }
/** Ends of what is not said fall into pauses by chance. */
const PAUSES_BY_CHANCE = 0.45
const MOST_PAUSES = 0.91
/** Of a long silence within a visit where no comma is, and of none. */
const SILENCE_WITHIN = -2.1
const NO_SILENCE_WITHIN = 0.4
/** Where little else of a script is said, less is believed of the rest. */
const LEAST_PRIOR = -1.5
/** A path finds rather too much than too little. */
const BIAS = -0.3
/** A visit of fewer frames proves less; most of what is written is said. */
const SURE_FROM = 100
const UNPROVEN = 0.2
const MOST_ODDS = 4.4
/** How likely the next visit is as right or as wrong as this one. */
const STAYS = 0.75

const oddsOf = (share: number): number => Math.log(share / (1 - share))
const probability = (odds: number): number => 1 / (1 + Math.exp(-odds))

function logOdds({ from, to }: Visit, advantage: number | null, shape: Shape, reader: Reader): number {
  const prior = clamp(oddsOf(reader.said) - oddsOf(UNHEARD.said), LEAST_PRIOR, 0)
  const evidence = BIAS + prior + fromAdvantage(advantage, reader) + fromShape(shape, reader)
  const weight = Math.min(1, (to - from) / SURE_FROM)
  return clamp(evidence * weight + UNPROVEN * (1 - weight), -MOST_ODDS, MOST_ODDS)
}

/** As both were bells; what fits better than this reader's level is no less likely said, what fits worse than chance no less likely not. */
function fromAdvantage(advantage: number | null, reader: Reader): number {
  if (advantage === null) return 0
  const spread = SAID_SPREAD.share * reader.advantage + SAID_SPREAD.least
  const said = Math.min(0, advantage - reader.advantage) ** 2 / (2 * spread ** 2)
  const above = advantage - UNSAID.advantage
  const unsaid = above > 0 ? above ** 2 / (2 * UNSAID.spread ** 2) : -1
  return clamp(Math.log(UNSAID.spread / spread) - said + unsaid, -MOST_ODDS, MOST_FROM_ADVANTAGE)
}

function fromShape({ pace, pauses, hasSilence }: Shape, reader: Reader): number {
  const pacing = Math.log(PACE.unsaid / PACE.said) - (pace ** 2 / 2) * (PACE.said ** -2 - PACE.unsaid ** -2)
  const usual = clamp(reader.pauses, PAUSES_BY_CHANCE, MOST_PAUSES)
  const [paused, unpaused] = [usual / PAUSES_BY_CHANCE, (1 - usual) / (1 - PAUSES_BY_CHANCE)].map(Math.log)
  return (
    Math.max(-PACE.most, pacing) +
    pauses * paused! +
    (2 - pauses) * unpaused! +
    (hasSilence ? SILENCE_WITHIN : NO_SILENCE_WITHIN)
  )
}

function readerOf(
  advantages: readonly (number | null)[],
  shapes: readonly Shape[],
  beliefs: readonly number[],
): Reader {
  const believed = beliefs.reduce((sum, value) => sum + value, 0)
  const paused = beliefs.reduce((sum, value, i) => sum + (value * shapes[i]!.pauses) / 2, 0)
  const known = advantages
    .flatMap((value, i) => (value === null ? [] : [{ value, weight: beliefs[i]! }]))
    .sort((a, b) => a.value - b.value)
  let left = QUANTILE * known.reduce((sum, { weight }) => sum + weight, 0)
  const middle = known.find(({ weight }) => (left -= weight) <= 0)?.value ?? 0
  return {
    advantage: clamp(middle, UNHEARD.advantage, MOST_ADVANTAGE),
    pauses: (paused + PRIOR * UNHEARD.pauses) / (believed + PRIOR),
    said: (believed + PRIOR * UNHEARD.said) / (beliefs.length + PRIOR),
  }
}

/** Log odds of each, given all of them. */
function withNeighbours(odds: readonly number[]): number[] {
  const passed = (value: number) => {
    const likely = probability(value)
    const next = likely * STAYS + (1 - likely) * (1 - STAYS)
    return Math.log(next / (1 - next))
  }
  const before = odds.map(() => 0)
  for (let i = 1; i < odds.length; i++) before[i] = passed(before[i - 1]! + odds[i - 1]!)
  const after = odds.map(() => 0)
  for (let i = odds.length - 2; i >= 0; i--) after[i] = passed(after[i + 1]! + odds[i + 1]!)
  return odds.map((own, i) => before[i]! + own + after[i]!)
}
