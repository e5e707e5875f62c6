import type { Lesson, Passage } from '@/core/lesson/document'
import type { Cut } from '@/core/lesson/takeEdits'
import type { Analysis } from '@/core/measure/analysis'
import { HOP } from '@/core/measure/energyMeter'
import { loudnessOf } from '@/core/measure/loudness'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Decibels, Seconds } from '@/core/units'

/** Dead air: pauses of more than `longest` become `kept` long. */
export interface PauseRule {
  longest: Seconds
  kept: Seconds
}

/** How far above the quietest of a pause its room may go; what is louder is a breath, and stays. */
const ROOM_RANGE: Decibels = 7
const SHORTEST_CUT: Seconds = 0.05

type TakeFacts = { analysis: Analysis; speech: readonly SpeechSegment[] }

/**
 * What to cut from a lesson's voice so that no pause within a step is longer than allowed. Only the room's own tone is
 * cut, never words or breaths; what stays of it joins without a seam. Waits before a step's first word and after its
 * last one are shortened likewise.
 */
export function pauseCuts(
  lesson: Pick<Lesson, 'steps'>,
  rule: PauseRule,
  factsOf: (media: string) => TakeFacts | undefined,
  newId: () => string,
): Cut[] {
  return lesson.steps.flatMap(({ passages }) =>
    passages.flatMap((passage) => {
      const facts = factsOf(passage.media)
      return facts ? cutsWithin(passage, rule, facts, newId) : []
    }),
  )
}

export const cutTime = (cuts: readonly Cut[]): Seconds => cuts.reduce((sum, { from, to }) => sum + to - from, 0)

function cutsWithin(passage: Passage, rule: PauseRule, { analysis, speech }: TakeFacts, newId: () => string): Cut[] {
  const inside = speech.filter(({ start, end }) => end > passage.from && start < passage.to)
  if (inside.length === 0) return []
  const edges = [passage.from, ...inside.flatMap(({ start, end }) => [start, end]), passage.to]
  const cuts: Cut[] = []
  for (let i = 0; i < edges.length; i += 2) {
    const [from, to] = [edges[i]!, edges[i + 1]!]
    if (to - from <= rule.longest) continue
    const room = longestRoom(analysis, from, to)
    const surplus = Math.min(to - from - rule.kept, room.to - room.from)
    if (surplus < SHORTEST_CUT) continue
    // At the passage's own edges the room goes first; between words it goes from its middle.
    const start = i === 0 ? room.from : i === edges.length - 2 ? room.to - surplus : (room.from + room.to - surplus) / 2
    cuts.push({ passage: passage.id, from: start, to: start + surplus, newPassage: newId() })
  }
  return cuts
}

/** The longest stretch of a pause in which nothing but the room is heard. */
function longestRoom({ energy }: Analysis, from: Seconds, to: Seconds): { from: Seconds; to: Seconds } {
  const [first, last] = [Math.ceil(from / HOP), Math.floor(to / HOP)]
  const level = (hop: number) => smoothLevel(energy, hop)
  const quietest = Array.from({ length: last - first }, (_, i) => level(first + i)).sort((a, b) => a - b)
  const limit = (quietest[Math.floor(quietest.length * 0.2)] ?? -120) + ROOM_RANGE
  let best = { from, to: from }
  for (let hop = first; hop < last; hop++) {
    let end = hop
    while (end < last && level(end) <= limit) end++
    if ((end - hop) * HOP > best.to - best.from) best = { from: hop * HOP, to: end * HOP }
    hop = Math.max(hop, end)
  }
  return best
}

/** Level over 70 ms: single hops of a room's noise differ by some dB. */
function smoothLevel(energy: Float32Array, hop: number): Decibels {
  const around = energy.subarray(Math.max(0, hop - 3), hop + 4)
  const mean = around.reduce((sum, value) => sum + value, 0) / Math.max(1, around.length)
  return mean > 1e-12 ? loudnessOf(mean) : -120
}
