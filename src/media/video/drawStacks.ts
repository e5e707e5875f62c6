import type { Picture } from '@/core/lesson/document'
import type { Look } from '@/core/lesson/layers'
import { closer, dissolved, veiled } from '@/core/picture/blending'
import { blockOut, copyOf, fillArea, layOver, pushed, type Overlay, type Raster } from '@/core/picture/raster'
import type { Side, Stack } from '@/core/picture/stack'
import type { Frame } from '@/core/picture/frame'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { overlayOf } from './overlay'
import { recordingFrames } from './recordingFrames'
import { stillFrame } from './stillFrame'

export interface Drawing {
  look: Look
  frame: Frame
  store: MediaStore
  assets: Assets
  signal?: AbortSignal
}

/**
 * Draws what is seen, frame by frame. The stacks follow each other, and each of their sides plays evenly or stands. A frame
 * holds until the next one is asked for: then its bytes may be used again.
 */
export async function* drawStacks(work: Drawing, stacks: readonly Stack[]): AsyncGenerator<Raster> {
  const overlays = overlayCache(work)
  const sides = stacks[0]!.sides.map((_, i) =>
    drawSide(
      work,
      stacks.map(({ sides }) => sides[i]!),
      overlays,
    ),
  )
  const ground = rgbOf(work.look.ground)
  let spare: Uint8Array | undefined
  for (const { between, veil } of stacks) {
    const [left, right] = await Promise.all(sides.map(async (side) => (await side.next()).value as Raster))
    let raster = left!
    if (between && right)
      raster =
        between.kind === 'push'
          ? pushed(raster, right, between.share)
          : dissolved(raster, right, between.share, veil > 0 ? undefined : spare)
    if (veil > 0) raster = veiled(raster, ground, veil, spare)
    if (raster !== left) spare = raster.data
    yield raster
  }
}

/** One side through the stacks. */
async function* drawSide(work: Drawing, sides: readonly Side[], overlays: OverlayOf): AsyncGenerator<Raster> {
  const under = pictures(work, sides)
  let drawn = null as { key: string; raster: Raster } | null
  let spare: Uint8Array | undefined
  for (const side of sides) {
    const picture = (await under.next()).value as Raster
    const key = side.speed === 0 ? tellSide(side) : ''
    // What stands on this side while something happens on the other is drawn once.
    if (!key || drawn?.key !== key) {
      drawn = { key, raster: await withLayers(side, picture, work.look, overlays, spare) }
      spare = drawn.raster === picture ? undefined : drawn.raster.data
    }
    yield drawn.raster
  }
}

/** What points and covers goes with the picture when that comes nearer; words stay where they are. */
async function withLayers(
  { layers, seen }: Side,
  picture: Raster,
  look: Look,
  overlays: OverlayOf,
  spare?: Uint8Array,
): Promise<Raster> {
  const isNear = seen.width !== 1
  if (layers.length === 0) return isNear ? closer(picture, seen, spare) : picture
  let raster = isNear ? copyOf(picture) : copyOf(picture, spare)
  const lay = async ({ layer, area, share }: Side['layers'][number]) => {
    if (layer.kind === 'cover')
      return layer.way === 'blocks' ? blockOut(raster, area) : fillArea(raster, area, rgbOf(look.ground))
    const isDrawn = layer.kind === 'pointer' && layer.shape !== 'number'
    const over = await overlays(layer, area, isDrawn ? share : 1)
    if (over) layOver(raster, over, isDrawn ? 1 : share)
  }
  for (const one of layers) if (one.layer.kind !== 'words') await lay(one)
  if (isNear) raster = closer(raster, seen, spare)
  for (const one of layers) if (one.layer.kind === 'words') await lay(one)
  return raster
}

type OverlayOf = (
  layer: Side['layers'][number]['layer'],
  area: Side['layers'][number]['area'],
  share: number,
) => Promise<Overlay | null>

/** Each drawn once for as long as it stays as it is. */
function overlayCache({ look, frame }: Drawing): OverlayOf {
  const kept = new Map<string, Promise<Overlay | null>>()
  return (layer, area, share) => {
    const key = JSON.stringify([layer.id, area, share])
    let overlay = kept.get(key)
    if (!overlay) kept.set(key, (overlay = overlayOf(layer, look, area, frame, share)))
    return overlay
  }
}

/** The pictures under the layers of one side, a frame each. */
async function* pictures(work: Drawing, sides: readonly Side[]): AsyncGenerator<Raster> {
  const [first] = sides
  const { picture, framing } = first!.span
  if (picture.kind !== 'recording') {
    const raster = await stillFrame(work, picture, framing)
    for (let i = 0; i < sides.length; i++) yield raster
    return
  }
  const { at, speed } = first!
  const { media } = picture
  if (speed === 0) {
    const { value } = await recordingFrames(work, { media, framing, from: at, speed: 1 }, 1).next()
    for (let i = 0; i < sides.length; i++) yield value as Raster
    return
  }
  // A stack is told for the middle of its frame.
  const from = Math.max(0, at - (0.5 / work.frame.rate) * speed)
  yield* recordingFrames(work, { media, framing, from, speed }, sides.length)
}

const rgbOf = (hex: string): [number, number, number] =>
  [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as [number, number, number]

/** What a stack is drawn from, to be told apart by. */
export const tellStacks = (stacks: readonly Stack[]): unknown[] =>
  stacks.map(({ sides, between, veil }) => [sides.map(tellSide), between, veil])

const tellSide = ({ span, at, speed, seen, layers }: Side): string =>
  JSON.stringify([
    pictureKey(span.picture),
    span.framing,
    at,
    speed,
    seen,
    layers.map(({ layer, area, share }) => [layer, area, share]),
  ])

const pictureKey = (picture: Picture): unknown =>
  picture.kind === 'card' ? picture.lines : picture.kind === 'still' ? [picture.media, picture.page] : picture.media

export const mediaOfStacks = (stacks: readonly Stack[]): string[] => [
  ...new Set(
    stacks.flatMap(({ sides }) =>
      sides.flatMap(({ span }) => (span.picture.kind === 'card' ? [] : [span.picture.media])),
    ),
  ),
]
