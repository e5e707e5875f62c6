import type { Seconds } from '@/core/units'
import type { RecordingPicture } from '@/core/lesson/document'

/** A stretch of a step in which a recording plays evenly, or stands still (`from` and `to` the same). */
export interface Motion {
  /** Lesson time. */
  start: Seconds
  end: Seconds
  /** The recording's own time. */
  from: Seconds
  to: Seconds
}

export const speedOf = ({ start, end, from, to }: Motion): number => (end > start ? (to - from) / (end - start) : 0)

/** Outside these a recording does not follow its pins: slower looks stuck, faster is only a blur. */
export const SPEED_LIMITS = { least: 0.4, most: 4 }
/** Shorter stretches can't be seen. */
const SHORTEST: Seconds = 1 / 60

export interface MotionPlan {
  motions: Motion[]
  /** Pins by id that the recording can't reach in time, even at its highest speed. */
  missed: string[]
  /** Pins by id whose marks are not said while it is seen. */
  unsaid: string[]
}

/**
 * How a recording plays while its step is seen. Without pins at its speed (or, without one, so fast that it lasts as long
 * as `voiceEnd`); between pins as fast as needed within the limits: what would have to be slower waits on its picture,
 * what would have to be faster leaps. At its end the last picture is held.
 */
export function planMotion(
  picture: RecordingPicture,
  start: Seconds,
  end: Seconds,
  voiceEnd: Seconds,
  timeOf: (mark: string) => Seconds | null,
): MotionPlan {
  const kept = keptParts(picture)
  const length = kept.reduce((sum, { from, to }) => sum + to - from, 0)
  const all = picture.pins.map(({ id, at, mark }) => ({ id, at: placeInKept(kept, at), time: timeOf(mark) }))
  const isSaid = (pin: (typeof all)[number]): pin is typeof pin & { time: Seconds } =>
    pin.time !== null && pin.time >= start && pin.time < end
  const pins = all.filter(isSaid).sort((a, b) => a.at - b.at)
  const speed = picture.speed ?? fitting(length, Math.min(end, voiceEnd) - start)
  const unsaid = all.filter((pin) => !isSaid(pin)).map(({ id }) => id)
  const plan: MotionPlan = { motions: [], missed: [], unsaid }
  let [time, at] = [start, 0]
  for (const pin of pins) {
    if (pin.time === start && pin.at >= at) at = pin.at
    if (pin.time <= time || pin.at < at) continue
    const wanted = (pin.at - at) / (pin.time - time)
    if (wanted > SPEED_LIMITS.most) plan.missed.push(pin.id)
    const used = Math.min(SPEED_LIMITS.most, Math.max(SPEED_LIMITS.least, wanted))
    play(plan.motions, kept, time, pin.time, at, Math.min(pin.at, at + used * (pin.time - time)), used)
    time = pin.time
    at = pin.at
  }
  play(plan.motions, kept, time, end, at, length, speed)
  return plan
}

const fitting = (length: Seconds, available: Seconds) =>
  available > 0 ? Math.min(SPEED_LIMITS.most, Math.max(SPEED_LIMITS.least, length / available)) : 1

/** What is left of a recording after its cuts; all of it where nothing would be left. */
export function keptParts(picture: RecordingPicture): { from: Seconds; to: Seconds }[] {
  const parts = partsBetweenCuts(picture)
  return parts.length > 0 ? parts : [{ from: picture.from, to: picture.to }]
}

/** What is left of a recording after its cuts; empty where all is cut out. */
export function partsBetweenCuts({ from, to, cuts }: RecordingPicture): { from: Seconds; to: Seconds }[] {
  const parts: { from: Seconds; to: Seconds }[] = []
  let at = from
  for (const cut of [...cuts].sort((a, b) => a.from - b.from)) {
    if (cut.from > at) parts.push({ from: at, to: Math.min(to, cut.from) })
    at = Math.max(at, cut.to)
  }
  if (at < to) parts.push({ from: at, to })
  return parts
}

/** A moment of the file as a place among its kept parts laid end to end. */
function placeInKept(kept: readonly { from: Seconds; to: Seconds }[], at: Seconds): Seconds {
  let passed = 0
  for (const { from, to } of kept) {
    if (at < from) return passed
    if (at <= to) return passed + at - from
    passed += to - from
  }
  return passed
}

/** Plays the kept parts from `at` to `until` at a speed from `time` on, and holds its last picture to `end`. */
function play(
  motions: Motion[],
  kept: readonly { from: Seconds; to: Seconds }[],
  time: Seconds,
  end: Seconds,
  at: Seconds,
  until: Seconds,
  speed: number,
): void {
  let passed = 0
  let last: Seconds | null = null
  for (const { from, to } of kept) {
    const [first, stop] = [Math.max(at, passed), Math.min(until, passed + to - from)]
    passed += to - from
    if (stop <= first || end - time < SHORTEST) continue
    const lasts = Math.min((stop - first) / speed, end - time)
    const begins = from + first - (passed - (to - from))
    motions.push({ start: time, end: time + lasts, from: begins, to: begins + lasts * speed })
    last = begins + lasts * speed
    time += lasts
  }
  if (end - time < SHORTEST) {
    const final = motions.at(-1)
    if (final) final.end = end
    return
  }
  const held = last ?? motions.at(-1)?.to ?? fileTime(kept, at)
  motions.push({ start: time, end, from: held, to: held })
}

function fileTime(kept: readonly { from: Seconds; to: Seconds }[], at: Seconds): Seconds {
  let passed = 0
  for (const { from, to } of kept) {
    if (at <= passed + to - from) return from + at - passed
    passed += to - from
  }
  return kept.at(-1)!.to
}

/** What a recording shows at a moment of the lesson. */
export function motionAt(motions: readonly Motion[], time: Seconds): Motion | undefined {
  return motions.find((motion) => time < motion.end) ?? motions.at(-1)
}
