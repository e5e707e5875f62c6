import type { Area, CloserLayer, CoverLayer, Layer } from '@/core/lesson/layers'
import type { EdgeSpan, LayerSpan, PictureSpan, Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'
import type { Frame } from './frame'
import { motionAt, speedOf } from './motion'

/**
 * What is seen at a moment: a picture with what lies over it, or two of them while the one gives way to the other. Page and
 * file draw the same stacks.
 */
export interface Stack {
  /** The picture; the next one while it comes. */
  sides: [Side] | [Side, Side]
  /** How the second side comes over the first, and how far it is, 0..1. */
  between: { kind: 'dissolve' | 'push'; share: number } | null
  /** How much of it is covered by plain ground, 0..1. */
  veil: number
}

/** A picture with what lies over it. */
export interface Side {
  span: PictureSpan
  /** Of a recording: the moment of its file, and how fast it plays; 0 where it stands. */
  at: Seconds
  speed: number
  /** What of the picture fills the frame. */
  seen: Area
  /** From the ground up, each as far as it is there, 0..1. */
  layers: { layer: Exclude<Layer, CloserLayer>; area: Area; share: number }[]
}

export const WHOLE: Area = { x: 0, y: 0, width: 1, height: 1 }

/** How long words and pointers take to come, and all but covers to go. */
const COMES: Seconds = 0.3
const DRAWN: Seconds = 0.4
const GOES: Seconds = 0.25

export interface Ramp {
  start: Seconds
  end: Seconds
}

/** When a layer comes and goes, or moves all the time; what covers is there at once, and what lasts as long as its picture goes with it. */
export function rampsOf({ layer, start, end, isGone }: LayerSpan): { comes: Ramp | null; goes: Ramp | null } {
  const half = (end - start) / 2
  if (isSlow(layer)) return { comes: { start, end }, goes: null }
  const [inLength, outLength] = lengthsOf(layer)
  return {
    comes: inLength > 0 ? { start, end: start + Math.min(inLength, half) } : null,
    goes: isGone && outLength > 0 ? { start: end - Math.min(outLength, half), end } : null,
  }
}

/** The picture moves for as long as it lasts. */
const isSlow = (layer: Layer): boolean => layer.kind === 'closer' && layer.ease === null

function lengthsOf(layer: Layer): [Seconds, Seconds] {
  switch (layer.kind) {
    case 'words':
      // Captions are there with their first word.
      return layer.role === 'caption' ? [0, 0] : [COMES, GOES]
    case 'pointer':
      return [DRAWN, GOES]
    case 'cover':
      return [0, 0]
    case 'closer':
      return [layer.ease ?? 0, layer.ease ?? 0]
  }
}

/** How far a layer is there. */
export function presence(span: LayerSpan, time: Seconds): number {
  if (time < span.start || time >= span.end) return 0
  const { comes, goes } = rampsOf(span)
  const come = comes ? (time - comes.start) / (comes.end - comes.start) : 1
  const go = goes ? (goes.end - time) / (goes.end - goes.start) : 1
  return eased(Math.min(1, come, go))
}

/** Begins and ends at rest (the polynomial 3x² - 2x³). */
const eased = (x: number) => x * x * (3 - 2 * x)

export function stackAt(timeline: Timeline, time: Seconds): Stack | null {
  const { pictures, edges } = timeline
  const index = pictureIndex(pictures, time)
  const span = pictures[index]
  if (!span) return null
  const edge = edges.find(({ start, end }) => time >= start && time < end)
  const plain = { between: null, veil: 0 }
  if (!edge) return { sides: [sideAt(timeline, span, time)], ...plain }
  if (edge.kind === 'plain') return { sides: [sideAt(timeline, span, time)], between: null, veil: veilAt(edge, time) }
  const after = pictures.findIndex(({ start }) => start >= edge.boundary - 1e-9)
  const [left, right] = [pictures[after - 1], pictures[after]]
  if (!left || !right) return { sides: [sideAt(timeline, span, time)], ...plain }
  // Each stands still while only the other is meant to move.
  const sides: [Side, Side] = [
    sideAt(timeline, left, Math.min(time, left.end - LEAST)),
    sideAt(timeline, right, Math.max(time, right.start)),
  ]
  return { sides, between: { kind: edge.kind, share: eased((time - edge.start) / (edge.end - edge.start)) }, veil: 0 }
}

/** Just before a picture's end it is still seen. */
const LEAST: Seconds = 1e-6

const veilAt = ({ start, end, boundary }: EdgeSpan, time: Seconds) =>
  eased(time < boundary ? (time - start) / (boundary - start) : (end - time) / (end - boundary))

function pictureIndex(pictures: readonly PictureSpan[], time: Seconds): number {
  const index = pictures.findIndex(({ end }) => time < end)
  return index < 0 ? pictures.length - 1 : index
}

function sideAt({ layers, frame }: Timeline, span: PictureSpan, time: Seconds): Side {
  const { at, speed } = fileTime(span, time, frame)
  let seen = WHOLE
  const over: Side['layers'] = []
  for (const one of layers) {
    if (one.step !== span.step) continue
    const share = presence(one, time)
    const { layer } = one
    const begins = layer.kind === 'closer' && time >= one.start && time < one.end ? layer.begins : null
    if (share <= 0 && !begins) continue
    if (layer.kind === 'closer') seen = between(begins ? fitted(begins) : seen, fitted(layer.area), share)
    else over.push({ layer, area: layer.kind === 'cover' ? coverAt(layer, at) : layer.area, share })
  }
  return { span, at, speed, seen, layers: over }
}

/** The moment of its file that a recording shows; 0 for what stands still. Once it has played, its last picture stays. */
function fileTime({ motions }: PictureSpan, time: Seconds, { rate }: Frame): { at: Seconds; speed: number } {
  const motion = motionAt(motions, time)
  if (!motion) return { at: 0, speed: 0 }
  const speed = speedOf(motion)
  if (speed > 0) return { at: Math.min(motion.to, motion.from + Math.max(0, time - motion.start) * speed), speed }
  const before = motions[motions.indexOf(motion) - 1]
  const hasPlayed = before && before.to === motion.from
  return { at: hasPlayed ? Math.max(before.from, motion.from - speedOf(before) / rate) : motion.from, speed }
}

/** An area of the frame's own shape around another one, inside the frame. */
export function fitted({ x, y, width, height }: Area): Area {
  const size = Math.min(1, Math.max(width, height))
  const inside = (from: number, length: number) => Math.min(1 - size, Math.max(0, from + length / 2 - size / 2))
  return { x: inside(x, width), y: inside(y, height), width: size, height: size }
}

/** From the one to the other: sizes in equal proportions, so that it comes nearer evenly. */
function between(a: Area, b: Area, share: number): Area {
  const size = a.width * (b.width / a.width) ** share
  // What both have in common stays where it is.
  const still = a.width === b.width ? share : (a.width - size) / (a.width - b.width)
  const place = (from: number, to: number) => from + (to - from) * still
  return { x: place(a.x, b.x), y: place(a.y, b.y), width: size, height: size }
}

/** Where a cover is at a moment of the recording under it. */
export function coverAt({ area, moves }: CoverLayer, at: Seconds): Area {
  if (moves.length === 0) return area
  const next = moves.findIndex((move) => move.at > at)
  const [before, after] = [moves[next < 0 ? moves.length - 1 : Math.max(0, next - 1)]!, moves[next]]
  if (!after || at <= before.at) return { ...area, x: before.x, y: before.y }
  const share = (at - before.at) / (after.at - before.at)
  return { ...area, x: before.x + (after.x - before.x) * share, y: before.y + (after.y - before.y) * share }
}
