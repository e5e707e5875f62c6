import type { Seconds } from '@/core/units'
import { lettersOf, type CaptionRules } from './rules'

/** What is to be shown of a stretch of words. */
export interface Said {
  step: string
  lines: string[]
  /** When its first word begins and its last one ends. */
  start: Seconds
  end: Seconds
}

/** A caption stays a little after its last word, and not long into silence. */
export const LINGERS: Seconds = 0.3
/** Times that are so near a change of picture are at the change: a few frames' difference would flicker. */
const NEAR_CUT: Seconds = 0.25

/** When pictures change, in order, and when the lesson ends. */
export interface Pictures {
  cuts: readonly Seconds[]
  length: Seconds
}

/**
 * When captions are seen: each from its first word on, for as long as its words and as it takes to read, but not into the next
 * one. Where that would be shorter than the rules ask, the next one waits, or it begins early itself, as far as its step has
 * room; those that find none share what there is.
 */
export function timesOf(
  captions: readonly Said[],
  { cuts, length }: Pictures,
  rules: CaptionRules,
): { start: Seconds; end: Seconds }[] {
  const near = (time: Seconds) => cuts.find((cut) => Math.abs(cut - time) < NEAR_CUT)
  const wanted = captions.map(({ start }) => near(start) ?? start)
  const starts: Seconds[] = []
  let free = 0
  for (let first = 0; first < captions.length;) {
    let next = first + 1
    while (next < captions.length && captions[next]!.step === captions[first]!.step) next++
    // None begins over the picture before its own.
    const cut = cuts.findLast((time) => time <= wanted[first]!) ?? 0
    const room = { from: Math.max(free, cut), to: Math.min(length, (wanted[next] ?? Infinity) - rules.apart) }
    const seen = leastSeen(next - first, room, rules)
    starts.push(...placed(wanted.slice(first, next), room, seen, rules.apart))
    free = starts.at(-1)! + seen + rules.apart
    first = next
  }
  return captions.map((caption, i) => {
    const start = starts[i]!
    const reading = Math.max(rules.shortest, lettersOf(caption) / rules.pace)
    const latest = Math.min(start + rules.longest, length, (starts[i + 1] ?? Infinity) - rules.apart)
    const end = Math.min(Math.max(caption.end + LINGERS, start + reading), latest)
    const cut = near(end)
    const isAtCut = cut !== undefined && cut >= Math.min(caption.end, latest) && cut <= latest
    return { start, end: isAtCut && cut - start >= rules.shortest ? cut : end }
  })
}

interface Room {
  from: Seconds
  to: Seconds
}

/** For how long each of so many captions can be seen at least. One frame, if there is no room at all. */
const leastSeen = (count: number, { from, to }: Room, { shortest, apart }: CaptionRules): Seconds =>
  Math.max(apart / 2, Math.min(shortest, (to - from + apart) / count - apart))

/** The beginnings of one step's captions: as wanted, but so that each can be seen for so long. */
function placed(wanted: readonly Seconds[], room: Room, seen: Seconds, apart: Seconds): Seconds[] {
  const starts = [...wanted]
  const pushLater = () =>
    starts.forEach((start, i) => (starts[i] = Math.max(start, i > 0 ? starts[i - 1]! + seen + apart : room.from)))
  pushLater()
  let latest = room.to - seen
  for (let i = starts.length - 1; i >= 0; i--) {
    starts[i] = Math.min(starts[i]!, latest)
    latest = starts[i]! - apart - seen
  }
  pushLater()
  return starts
}
