import { toFrames, toSamples, type FrameIndex, type Hertz, type SampleIndex, type Seconds } from '@/core/units'
import type { Framing } from '@/core/lesson/framing'
import type { Timeline } from '@/core/lesson/timeline'
import { motionAt } from './motion'
import { rampsOf, stackAt, type Stack } from './stack'

/**
 * What is seen from one frame to another; shots follow each other without a gap. What stands is coded once, what a
 * recording shows by itself as it comes, and only where something moves over a picture each frame is drawn.
 */
export type Shot = {
  step: string
  start: FrameIndex
  frames: FrameIndex
} & ShotContent

export type ShotContent =
  | { kind: 'stands'; stack: Stack }
  /** A recording with nothing over it, from a moment of its file on. */
  | { kind: 'plays'; media: string; framing: Framing; from: Seconds; speed: number }
  /** A stack for each frame. */
  | { kind: 'drawn'; stacks: Stack[] }

export function planShots(timeline: Timeline): Shot[] {
  const cuts = cutsOf(timeline)
  return cuts.slice(0, -1).flatMap((cut, i) => shotsBetween(timeline, cut, cuts[i + 1]!))
}

/** A frame with which something changes; what did so shortly before it, at the latest, and at the earliest. */
interface Cut {
  frame: FrameIndex
  first: Seconds
  last: Seconds
}

function cutsOf(timeline: Timeline): Cut[] {
  const frames = lessonFrames(timeline)
  const cuts = new Map<FrameIndex, Cut>()
  for (const time of [0, ...changesOf(timeline), timeline.length]) {
    const frame = time === timeline.length ? frames : Math.min(frames, Math.max(0, toFrames(time, timeline.frame.rate)))
    const { first, last } = cuts.get(frame) ?? { first: time, last: time }
    cuts.set(frame, { frame, first: Math.min(first, time), last: Math.max(last, time) })
  }
  return [...cuts.values()].sort((a, b) => a.frame - b.frame)
}

/** Moments at which something begins or ceases to move, or to be there. */
function* changesOf({ pictures, layers, edges }: Timeline): Generator<Seconds> {
  for (const { start, motions } of pictures) {
    yield start
    for (const motion of motions) yield motion.start
  }
  for (const one of layers) {
    const { comes, goes } = rampsOf(one)
    yield* [one.start, one.end]
    for (const ramp of [comes, goes]) if (ramp) yield* [ramp.start, ramp.end]
  }
  for (const { start, end, boundary } of edges) yield* [start, boundary, end]
}

function shotsBetween(timeline: Timeline, from: Cut, to: Cut): Shot[] {
  const [start, end] = [from.frame, to.frame]
  const { rate } = timeline.frame
  // In the middle of a frame, and between the same changes as the whole shot.
  const at = (frame: FrameIndex) =>
    stackAt(timeline, Math.max(from.last, Math.min(to.first - LEAST, (frame + 0.5) / rate)))
  const first = at(start)
  if (!first) return []
  const shot = { step: first.sides.at(-1)!.span.step.id, start, frames: end - start }
  const playing = playsAlone(first, start, rate)
  if (playing) return [{ ...shot, kind: 'plays', ...playing }]
  // Between two changes all moves evenly or nothing does.
  const isSame = [(start + end) >> 1, end - 1].every((frame) => sameStack(at(frame)!, first))
  if (isSame) return [{ ...shot, kind: 'stands', stack: first }]
  return [{ ...shot, kind: 'drawn', stacks: Array.from({ length: end - start }, (_, i) => at(start + i)!) }]
}

const LEAST: Seconds = 1e-9

/** A recording that moves, whole and with nothing over it. */
function playsAlone(stack: Stack, start: FrameIndex, rate: Hertz) {
  const [{ span, seen, layers, speed }] = stack.sides
  const { picture, motions } = span
  const motion = motionAt(motions, (start + 0.5) / rate)
  if (picture.kind !== 'recording' || !motion || speed === 0) return null
  if (stack.between || stack.veil > 0 || layers.length > 0 || seen.width !== 1) return null
  const into = Math.max(0, start - toFrames(motion.start, rate)) / rate
  return { media: picture.media, framing: span.framing, from: motion.from + into * speed, speed }
}

function sameStack(a: Stack, b: Stack): boolean {
  return (
    a.veil === b.veil &&
    a.between === null &&
    b.between === null &&
    a.sides.every((side, i) => {
      const other = b.sides[i]!
      return (
        side.span === other.span &&
        side.at === other.at &&
        side.seen.x === other.seen.x &&
        side.seen.width === other.seen.width &&
        side.seen.y === other.seen.y &&
        side.layers.length === other.layers.length &&
        side.layers.every((layer, n) => {
          const { share, area } = other.layers[n]!
          return layer.share === share && layer.area.x === area.x && layer.area.y === area.y
        })
      )
    })
  )
}

/** A lesson's length in frames: the last one may be filled up with silence, but no sound is cut off. */
export const lessonFrames = (timeline: Timeline): FrameIndex =>
  Math.max(1, Math.ceil(timeline.length * timeline.frame.rate - 1e-6))

/** Samples that last exactly as long as the frames. */
export const samplesOfFrames = (frames: FrameIndex, rate: Hertz): SampleIndex => toSamples(frames / rate)
