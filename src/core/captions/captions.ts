import type { CaptionCorrection } from '@/core/lesson/document'
import type { Seconds } from '@/core/units'
import { breakCost } from './breaks'
import { correctedParts, type CorrectedPart } from './corrections'
import { USUAL_RULES, type CaptionRules } from './rules'
import { LINGERS, timesOf, type Pictures } from './timing'

/** A word as it is said in the lesson. */
export interface SaidWord {
  text: string
  start: Seconds
  end: Seconds
  /** The step that says it. */
  step: string
}

/** What is read while it is said. */
export interface Caption {
  step: string
  start: Seconds
  end: Seconds
  lines: string[]
  /** The first of its words, and the one after its last. */
  from: number
  to: number
  /** An author has said how it reads. */
  isCorrected: boolean
}

/** Costs, to be weighed against those of breaks (breaks.ts); of times, each second that is missing or too much. */
const COSTS = { caption: 6, sentence: 6, tooFast: 60, tooShort: 30, tooLong: 40, pause: 14, uneven: 0.12, misfit: 500 }
/** Where nobody speaks for so long a caption ends. */
const PAUSE: Seconds = 0.7

/**
 * Parts what is said into captions: of all ways to part it the one that costs least, found by dynamic programming over the
 * words (as Knuth & Plass 1981 break a paragraph). What was corrected stays as it is, and the rest is parted around it; those
 * without lines are not shown.
 */
export function makeCaptions(
  words: readonly SaidWord[],
  pictures: Pictures,
  language: string,
  rules: CaptionRules = USUAL_RULES,
  corrections: readonly CaptionCorrection[] = [],
): Caption[] {
  const text = measured(words, language)
  const fixed = correctedParts(words, corrections)
  const parts = stepsOf(words).flatMap(({ from, to }) =>
    partAround(
      text,
      from,
      to,
      fixed.filter((part) => part.from >= from && part.to <= to),
      rules,
    ),
  )
  return timed(words, parts, pictures, rules)
}

function partAround(
  text: MeasuredText,
  from: number,
  to: number,
  fixed: readonly CorrectedPart[],
  rules: CaptionRules,
): Part[] {
  const parts: Part[] = []
  let at = from
  for (const part of fixed) {
    parts.push(...partStep(text, at, part.from, rules), { ...part, isCorrected: true })
    at = part.to
  }
  return [...parts, ...partStep(text, at, to, rules)]
}

/** Words with what is asked of them again and again. */
interface MeasuredText {
  words: readonly SaidWord[]
  /** How many letters and spaces come before each word. */
  before: readonly number[]
  /** How bad it is to break before each word. */
  breaks: readonly number[]
}

function measured(words: readonly SaidWord[], language: string): MeasuredText {
  const before = [0]
  for (const { text } of words) before.push(before.at(-1)! + text.length + 1)
  const breaks = words.map(({ text }, i) =>
    i === 0 ? 0 : breakCost(words[i - 1]!.text, text, language, words[i - 2]?.text),
  )
  return { words, before, breaks }
}

const lettersIn = ({ before }: MeasuredText, start: number, end: number) => before[end]! - before[start]! - 1

type Part = Pick<Caption, 'from' | 'to' | 'lines' | 'isCorrected'>

/** No caption goes on into the next step: its words belong to another picture. */
function stepsOf(words: readonly SaidWord[]): { from: number; to: number }[] {
  const ranges: { from: number; to: number }[] = []
  words.forEach(({ step }, i) => {
    const last = ranges.at(-1)
    if (last && words[i - 1]!.step === step) last.to = i + 1
    else ranges.push({ from: i, to: i + 1 })
  })
  return ranges
}

function partStep(text: MeasuredText, from: number, to: number, rules: CaptionRules): Part[] {
  const best: { cost: number; start: number; split: number }[] = [{ cost: 0, start: from, split: from }]
  for (let end = from + 1; end <= to; end++) {
    let least = { cost: Infinity, start: from, split: from }
    // Of what lies within, word by word.
    let within = 0
    for (let start = end - 1; start >= from; start--) {
      if (start + 1 < end) within += innerCost(text, start + 1)
      const fit = bestSplit(text, start, end, rules)
      // What does not fit grows no smaller with more words; a word that is too long by itself has to be taken.
      if (!fit && end - start > 1) break
      const { cost: lines, split } = fit ?? { cost: COSTS.misfit, split: start }
      const cost = best[start - from]!.cost + lines + within + captionCost(text, start, end, to, rules)
      if (cost < least.cost) least = { cost, start, split }
    }
    best.push(least)
  }
  const parts: Part[] = []
  for (let end = to; end > from;) {
    const { start, split } = best[end - from]!
    const line = (first: number, last: number) =>
      text.words
        .slice(first, last)
        .map((word) => word.text)
        .join(' ')
    parts.unshift({
      from: start,
      to: end,
      lines: split > start ? [line(start, split), line(split, end)] : [line(start, end)],
      isCorrected: false,
    })
    end = start
  }
  return parts
}

function captionCost(text: MeasuredText, start: number, end: number, last: number, rules: CaptionRules): number {
  const { words } = text
  const { shortest, longest, pace } = rules
  const letters = lettersIn(text, start, end)
  const [from, until] = [words[start]!.start, words[end - 1]!.end]
  const next = words[end]?.start ?? until + LINGERS + shortest
  // As long as it can be seen, until the next one comes.
  const seen = Math.min(Math.max(until + LINGERS, from + shortest, from + letters / pace), next) - from
  let cost = COSTS.caption + (end < last ? text.breaks[end]! : 0)
  // In seconds, which add up: what is said too fast is no faster to read in more captions.
  cost += COSTS.tooFast * Math.max(0, letters / pace - seen)
  cost += COSTS.tooShort * Math.max(0, shortest - seen)
  cost += COSTS.tooLong * Math.max(0, until - from - longest)
  return cost
}

/** Of having the place before a word inside a caption: a sentence that ends there, or a silence. */
function innerCost({ words, breaks }: MeasuredText, at: number): number {
  const silence = words[at]!.start - words[at - 1]!.end
  return (silence > PAUSE ? COSTS.pause * silence : 0) + (breaks[at] === 0 ? COSTS.sentence : 0)
}

/** Where a caption's second line begins (its own beginning: there is only one), and what that costs; null where it does not fit. */
function bestSplit(
  text: MeasuredText,
  start: number,
  end: number,
  { lineLength, lines }: CaptionRules,
): { split: number; cost: number } | null {
  if (lettersIn(text, start, end) <= lineLength) return { split: start, cost: 0 }
  if (lines === 1) return null
  let best: { split: number; cost: number } | null = null
  for (let at = start + 1; at < end; at++) {
    const [first, second] = [lettersIn(text, start, at), lettersIn(text, at, end)]
    if (first > lineLength) break
    if (second > lineLength) continue
    const uneven = Math.abs(first - second) + (first > second ? 2 : 0)
    const cost = 0.5 * text.breaks[at]! + COSTS.uneven * uneven
    if (!best || cost < best.cost) best = { split: at, cost }
  }
  return best
}

/** What is not shown takes no time from the others. */
function timed(words: readonly SaidWord[], parts: readonly Part[], pictures: Pictures, rules: CaptionRules): Caption[] {
  const said = parts.map((part) => {
    const [first, last] = [words[part.from]!, words[part.to - 1]!]
    return { ...part, step: first.step, start: first.start, end: Math.max(first.start, last.end) }
  })
  const shown = said.filter(({ lines }) => lines.length > 0)
  const times = new Map(timesOf(shown, pictures, rules).map((one, i) => [shown[i]!, one]))
  return said.map((caption) => ({ ...caption, ...times.get(caption) }))
}
