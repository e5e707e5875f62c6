import type { Passage, Step, Take } from '@/core/lesson/document'
import { newTake } from '@/core/lesson/takes'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'
import { chooseBreaks } from './breaks'

/** Kept of a take before its first word and after its last one. */
const MARGIN: Seconds = 0.25

/** Lays one recording over steps at its pauses, by the best guess of which of them are changes of picture. */
export function layByPauses(
  steps: readonly Step[],
  { media, length, speech }: { media: string; length: Seconds; speech: readonly SpeechSegment[] },
  kind: Take['kind'],
  newId: () => string,
): { takes: Take[]; heard: { step: string; passages: Passage[] }[] } {
  const { from, to } = wordsWithin(speech, length)
  const edges = [from, ...chooseBreaks(speech, expectedShares(steps)), to]
  const heard = edges.slice(0, -1).flatMap((start, i) => {
    const step = steps[i]
    return step ? [{ step, part: { from: start, to: edges[i + 1]! } }] : []
  })
  return {
    takes: heard.map(({ step, part }) => newTake(newId(), media, step, part, kind)),
    heard: heard.map(({ step, part }) => ({ step: step.id, passages: [{ id: newId(), media, ...part, pause: 0 }] })),
  }
}

/** Where every step has its script, its letters tell how much is said on it; else all are alike. */
function expectedShares(steps: readonly Step[]): number[] {
  const known = steps.every(({ script }) => script.length > 0)
  return steps.map(({ script }) => (known ? script.length : 1))
}

/** A recording without the waits at both ends. */
export function wordsWithin(speech: readonly SpeechSegment[], length: Seconds): { from: Seconds; to: Seconds } {
  if (speech.length === 0) return { from: 0, to: length }
  return { from: Math.max(0, speech[0]!.start - MARGIN), to: Math.min(length, speech.at(-1)!.end + MARGIN) }
}
