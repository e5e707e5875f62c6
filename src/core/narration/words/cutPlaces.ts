import type { Analysis } from '@/core/measure/analysis'
import { HOP } from '@/core/measure/energyMeter'
import type { Seconds } from '@/core/units'
import type { StepWord } from './stepWords'

/** A place in a passage, in its take's time. */
export interface CutPlace {
  passage: string
  at: Seconds
}

/** A picture comes this long before its first word, if the pause is long enough. */
const BEFORE_WORD: Seconds = 0.25
const PAUSE: Seconds = 0.15
/** How far around the border of two words the quietest place is looked for. */
const REACH: Seconds = 0.05

/**
 * Where the sound is cut in front of word `index` (its count: after the last word): in the pause before it, or where the
 * voice is softest between the two words. Null in a step without words.
 */
export function cutBefore(
  words: readonly StepWord[],
  index: number,
  analysisOf: (passage: string) => Analysis | undefined,
): CutPlace | null {
  const word = words[index]
  const before = words[index - 1]
  if (!word) return before ? { passage: before.passage, at: before.at.to + REACH } : null
  if (!before || before.passage !== word.passage) return { passage: word.passage, at: -Infinity }
  const pause = word.at.from - before.at.to
  if (pause >= PAUSE) return { passage: word.passage, at: word.at.from - Math.min(BEFORE_WORD, pause / 2) }
  const analysis = analysisOf(word.passage)
  const middle = (word.at.from + before.at.to) / 2
  return {
    passage: word.passage,
    at: analysis ? quietest(analysis, before.at.to - REACH, word.at.from + REACH) : middle,
  }
}

/** Middle of the softest 10 ms of a stretch of a take. */
export function quietest({ energy }: Analysis, from: Seconds, to: Seconds): Seconds {
  let best = Math.max(0, Math.round(from / HOP))
  for (let h = best; h < Math.min(energy.length, to / HOP); h++) if (energy[h]! < energy[best]!) best = h
  return (best + 0.5) * HOP
}
