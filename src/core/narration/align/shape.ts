import type { TakeFrames } from './path'
import type { Reference } from './reference'
import type { Visit } from './visits'

/** How a visit lies in its take: a path that goes through something else mostly ends within speech, and hurries or dawdles. */
export interface Shape {
  /** Natural logarithm of its speech against that of its words in the reference; 0 is usual in this run. */
  pace: number
  /** At how many of its two ends there is silence. */
  pauses: number
  /** It has a long silence within, where no comma or the like is. */
  hasSilence: boolean
}

/** Frames to each side that say whether there is a pause, and how much of them is silent then. */
const EDGE = { frames: 12, silent: 0.6 }
const LONG_SILENCE = 35
const INNER = 60

/** Of the visits of a path at 10 ms. */
export function shapesOf(
  visits: readonly Visit[],
  path: Int32Array,
  { speech }: TakeFrames,
  reference: Reference,
): Shape[] {
  const paces = visits.map(({ from, to, first, last }) =>
    Math.log(Math.max(1, spokenFrames(speech, from, to)) / Math.max(1, last - first)),
  )
  const usual = [...paces].sort((a, b) => a - b)[paces.length >> 1] ?? 0
  return visits.map(({ from, to }, i) => ({
    pace: paces[i]! - usual,
    pauses: Number(isPause(speech, from - EDGE.frames, from)) + Number(isPause(speech, to, to + EDGE.frames)),
    hasSilence: longestSilence(path, speech, reference, from, to) > LONG_SILENCE,
  }))
}

function spokenFrames(speech: Float32Array, from: number, to: number): number {
  let sum = 0
  for (let t = Math.max(0, from); t < Math.min(speech.length, to); t++) sum += speech[t]!
  return sum
}

/** Before and after the take there is silence. */
const isPause = (speech: Float32Array, from: number, to: number): boolean =>
  spokenFrames(speech, from, to) / (to - from) < 1 - EDGE.silent

/** Near its ends a silence tells of the edge, which may lie a word too far out, and not of the visit. */
function longestSilence(
  path: Int32Array,
  speech: Float32Array,
  { word, punctuated }: Reference,
  from: number,
  to: number,
): number {
  const isAtComma = (at: number) => at < -1 && punctuated[word[-2 - at]!]
  let [longest, silent, spoken] = [0, 0, 0]
  const all = spokenFrames(speech, from, to)
  for (let t = from; t < to; t++) {
    spoken += speech[t]!
    silent = speech[t]! < 0.5 && !isAtComma(path[t]!) ? silent + 1 : 0
    if (Math.min(spoken, all - spoken) >= INNER) longest = Math.max(longest, silent)
  }
  return longest
}
