import type { TimedWord } from '@/core/messages/job'
import type { SpeechSegment } from '@/core/measure/speech'
import { joinSegments } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'

/** Pairs of places that are the same words in two recordings: old time, new time, both rising. */
export type Anchors = [old: Seconds, now: Seconds][]

/** The beginning of every word that was found in both. */
export function anchorsByWords(before: readonly TimedWord[], after: readonly TimedWord[]): Anchors {
  const now = new Map(after.map((word) => [word.from, word]))
  const pairs = before.flatMap((word): Anchors => {
    const other = now.get(word.from)
    return other ? [[word.start, other.start]] : []
  })
  const last = before.findLast((word) => now.has(word.from))
  if (last) pairs.push([last.end, now.get(last.from)!.end])
  return rising(pairs)
}

/** Shorter gaps are within a phrase. */
const PHRASE_PAUSE: Seconds = 0.25
/** What it costs to leave a phrase without a partner, against a second of difference in length. */
const UNPAIRED = 1.2

/** Phrases paired by their lengths, as cheaply as can be (dynamic programming over both lists). */
export function anchorsByPauses(before: readonly SpeechSegment[], after: readonly SpeechSegment[]): Anchors {
  const [a, b] = [joinSegments(before, PHRASE_PAUSE), joinSegments(after, PHRASE_PAUSE)]
  const length = ({ start, end }: SpeechSegment) => end - start
  const cost = Array.from({ length: a.length + 1 }, () => new Float64Array(b.length + 1))
  for (let i = 0; i <= a.length; i++) {
    for (let j = 0; j <= b.length; j++) {
      if (i === 0 || j === 0) cost[i]![j] = (i + j) * UNPAIRED
      else {
        const pair = cost[i - 1]![j - 1]! + Math.abs(length(a[i - 1]!) - length(b[j - 1]!))
        cost[i]![j] = Math.min(pair, cost[i - 1]![j]! + UNPAIRED, cost[i]![j - 1]! + UNPAIRED)
      }
    }
  }
  const pairs: Anchors = []
  for (let i = a.length, j = b.length; i > 0 && j > 0;) {
    const [left, up] = [cost[i - 1]![j]! + UNPAIRED, cost[i]![j - 1]! + UNPAIRED]
    if (cost[i]![j]! < Math.min(left, up) - 1e-9) {
      pairs.unshift([a[i - 1]!.start, b[j - 1]!.start], [a[i - 1]!.end, b[j - 1]!.end])
      i--
      j--
    } else if (left <= up) i--
    else j--
  }
  return rising(pairs)
}

/** Only what goes forward in both. */
function rising(pairs: Anchors): Anchors {
  const kept: Anchors = []
  for (const pair of pairs) {
    const last = kept.at(-1)
    if (!last || (pair[0] > last[0] && pair[1] > last[1])) kept.push(pair)
  }
  return kept
}
