import type { SpeechSegment } from '@/core/measure/speech'
import type { Seconds } from '@/core/units'

/** A place where the narration can be cut: shortly before the next word, and how long the silence around it is. */
export interface BreakPlace {
  at: Seconds
  pause: Seconds
}

/** A picture comes this long before its first word, if the pause is long enough. */
const BEFORE_WORD: Seconds = 0.25
const SHORTEST_PAUSE: Seconds = 0.15
/** What a second of silence is worth against a stretch that is a third longer or shorter than expected. */
const PAUSE_WORTH = 1.2
const LONGEST_COUNTED: Seconds = 2.5

/** Every pause between two stretches of speech. */
export function breakPlaces(speech: readonly SpeechSegment[]): BreakPlace[] {
  return speech.slice(1).flatMap((segment, i) => {
    const pause = segment.start - speech[i]!.end
    return pause < SHORTEST_PAUSE ? [] : [{ at: segment.start - Math.min(BEFORE_WORD, pause / 2), pause }]
  })
}

/**
 * The best guess at which pauses are the changes of slide: long pauses, at places that give each slide about its
 * share of the time. `shares` says how much is expected of each slide (any unit); one break fewer is returned, or as
 * many as there are pauses. Found by dynamic programming over all choices.
 */
export function chooseBreaks(speech: readonly SpeechSegment[], shares: readonly number[]): Seconds[] {
  const places = breakPlaces(speech)
  const breaks = Math.min(shares.length - 1, places.length)
  if (breaks <= 0) return []
  const from = speech[0]!.start
  const to = speech.at(-1)!.end
  const total = shares.reduce((sum, share) => sum + share, 0)
  const expected = shares.map((share) => ((to - from) * share) / total)

  // best[k][p]: least cost when break k lies at place p; `before` remembers where the one before it lay.
  const before: Int32Array[] = []
  let best = Float64Array.from(places, ({ at, pause }) => misfit(at - from, expected[0]!) - worth(pause))
  for (let k = 1; k < breaks; k++) {
    const next = new Float64Array(places.length).fill(Infinity)
    const came = new Int32Array(places.length).fill(-1)
    for (let p = k; p < places.length; p++) {
      for (let q = k - 1; q < p; q++) {
        const cost = best[q]! + misfit(places[p]!.at - places[q]!.at, expected[k]!)
        if (cost < next[p]!) {
          next[p] = cost
          came[p] = q
        }
      }
      next[p]! -= worth(places[p]!.pause)
    }
    before.push(came)
    best = next
  }
  const last = best.map((cost, p) => cost + misfit(to - places[p]!.at, expected[breaks]!))
  let place = last.indexOf(Math.min(...last))
  const chosen = [places[place]!.at]
  for (let k = breaks - 2; k >= 0; k--) {
    place = before[k]![place]!
    chosen.unshift(places[place]!.at)
  }
  return chosen
}

/** How far a stretch is from what is expected, in thirds, squared; short expectations are taken less strictly. */
function misfit(length: Seconds, expected: Seconds): number {
  return ((length - expected) / (expected / 3 + 1)) ** 2
}

const worth = (pause: Seconds) => PAUSE_WORTH * Math.min(pause, LONGEST_COUNTED) * 2
