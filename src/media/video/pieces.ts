import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import type { Writable } from 'node:stream'
import type { Look } from '@/core/lesson/layers'
import type { Shot } from '@/core/picture/shots'
import type { Stack } from '@/core/picture/stack'
import { rasterSize, type Frame } from '@/core/picture/frame'
import { inParallel } from '../inParallel'
import { CODING_MEMORY, runProgram, writeTo } from '../process'
import type { Assets, Recipe } from '../store/assets'
import type { MediaStore } from '../store/store'
import { NAL, parameterSets, splitNals } from './annexB'
import { codingOf, KEY_INTERVAL, stillFilter } from './coding'
import { drawStacks, mediaOfStacks, tellStacks, type Drawing } from './drawStacks'
import { recordingInput } from './recordingFrames'

/**
 * Coded pieces of a video. A still is one coded picture, followed by pictures that say 'as before' for as long as it
 * stays; only recordings are really coded. Pieces are kept, so that a video made again codes only what has changed.
 */
export interface PieceMaker {
  /** Codes what is not there yet, so that the streams come at once. */
  prepare(shots: readonly Shot[]): Promise<void>
  /** The H.264 byte stream of one shot, in parts. */
  streamOf(shot: Shot): AsyncGenerator<Buffer>
}

export async function openPieceMaker(
  look: Look,
  frame: Frame,
  store: MediaStore,
  assets: Assets,
  signal?: AbortSignal,
): Promise<PieceMaker> {
  const repeats = await codedRepeats(frame, signal)
  const work: Work = { look, frame, store, assets, edition: repeats.edition, signal }

  async function* hold(key: Buffer, frames: number): AsyncGenerator<Buffer> {
    for (let left = frames; left > 0; left -= KEY_INTERVAL) {
      yield Buffer.concat([key, ...repeats.pictures.slice(0, Math.min(left, KEY_INTERVAL) - 1)])
    }
  }

  async function* parts(path: string): AsyncGenerator<Buffer> {
    joinable(await firstBytes(path), repeats.sets)
    // An hour of a recording is more than memory holds.
    yield* createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>
  }

  return {
    async prepare(shots) {
      await inParallel(shots, async (shot) => {
        await (shot.kind === 'stands' ? codedStack(work, shot.stack) : codedFrames(work, shot))
      })
    },
    async *streamOf(shot) {
      if (shot.kind === 'stands') yield* hold(joinable(await codedStack(work, shot.stack), repeats.sets), shot.frames)
      else yield* parts(await codedFrames(work, shot))
    },
  }
}

const codedFrames = (work: Work, shot: Exclude<Shot, { kind: 'stands' }>): Promise<string> =>
  shot.kind === 'plays' ? codedMovement(work, shot) : codedDrawing(work, shot.stacks)

interface Work extends Drawing {
  /** Of the coder. */
  edition: string
}

/** Parameter sets stand at a piece's beginning. */
const HEAD = 4096 // bytes

async function firstBytes(path: string): Promise<Buffer> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD), 0, HEAD, 0)
    return buffer.subarray(0, bytesRead)
  } finally {
    await file.close()
  }
}

function joinable(piece: Buffer, sets: Buffer): Buffer {
  if (!parameterSets(splitNals(piece.subarray(0, HEAD))).equals(sets)) {
    throw new Error('a coded piece has parameter sets of its own and can not be joined')
  }
  return piece
}

interface Repeats {
  sets: Buffer
  pictures: Buffer[]
  edition: string
}

/**
 * Pictures that repeat the one before, made from black: they say nothing about what is repeated. Made anew each time, in a
 * moment, since they also tell which edition of the coder is at work: pieces of another one could not be joined with its.
 */
async function codedRepeats(frame: Frame, signal?: AbortSignal): Promise<Repeats> {
  const black = ['-f', 'lavfi', '-i', `color=black:size=16x16:rate=${frame.rate}`]
  const stream = await code(frame, black, KEY_INTERVAL, stillFilter(frame), { signal })
  const nals = splitNals(stream)
  const pictures = nals.filter(({ type }) => type === NAL.slice).map(({ bytes }) => bytes)
  if (pictures.length !== KEY_INTERVAL - 1)
    throw new Error(`expected one slice a repeated picture, got ${pictures.length}`)
  const edition = createHash('sha256').update(stream).digest('hex')
  return { sets: parameterSets(nals), pictures, edition }
}

/** A picture that stands, with what lies over it. */
const codedStack = (work: Work, stack: Stack): Promise<Buffer> =>
  work.assets.bytes(recipeOfStacks(work, [stack]), () => codeDrawn(work, [stack]))

/** The file of frames that are drawn each by itself. */
const codedDrawing = (work: Work, stacks: readonly Stack[]): Promise<string> =>
  work.assets.file(recipeOfStacks(work, stacks), async (draft) => void (await codeDrawn(work, stacks, draft)))

/** Another look changes only what shows something of it. */
const recipeOfStacks = (work: Work, stacks: readonly Stack[]): Recipe =>
  recipeOf(work, mediaOfStacks(stacks), [tellStacks(stacks), stacks.every(isPlain) ? null : work.look])

const isPlain = ({ sides, veil }: Stack) => veil === 0 && sides.every(({ layers }) => layers.length === 0)

function codeDrawn(work: Work, stacks: readonly Stack[], out?: string): Promise<Buffer> {
  const { frame, signal } = work
  const { width, height } = rasterSize(frame)
  const raw = ['-f', 'rawvideo', '-pixel_format', 'rgb24', '-video_size', `${width}x${height}`]
  const input = [...raw, '-framerate', String(frame.rate), '-i', 'pipe:0']
  return code(frame, input, stacks.length, stillFilter(frame), { signal, out, feed: feedingFrames(work, stacks) })
}

const feedingFrames = (work: Work, stacks: readonly Stack[]) => async (input: Writable) => {
  for await (const { data } of drawStacks(work, stacks)) await writeTo(input, data)
}

/** The file of a recording's moving part. */
async function codedMovement(work: Work, shot: Extract<Shot, { kind: 'plays' }>): Promise<string> {
  const { frame, assets, signal } = work
  const { media, framing, from, frames, speed } = shot
  const recipe = recipeOf(work, [media], [from, frames, speed, framing, MOVEMENT_EDITION])
  return assets.file(recipe, async (draft) => {
    const { input, filter } = await recordingInput(work, shot)
    await code(frame, input, frames, filter, { signal, out: draft })
  })
}

/** Raised when the same part of a recording comes to be coded otherwise. */
const MOVEMENT_EDITION = 4

interface Coding {
  signal?: AbortSignal
  /** Feeds the input. */
  feed?: (input: Writable) => Promise<void>
  /** A file to write; returned as bytes where none is given. */
  out?: string
}

/** Codes exactly `frames` pictures. */
function code(
  frame: Frame,
  input: string[],
  frames: number,
  filter: string,
  { signal, feed, out }: Coding,
): Promise<Buffer> {
  const args = ['-v', 'error', '-y', ...input, '-map', '0:v:0', '-an', '-vf', filter, '-frames:v', String(frames)]
  return runProgram('ffmpeg', [...args, ...codingOf(frame), '-f', 'h264', out ? `file:${out}` : 'pipe:1'], {
    memory: CODING_MEMORY,
    limit: 4 * 3600,
    signal,
    feed,
  })
}

/** Coded pieces depend on how they are coded, and by which edition of the coder. */
const recipeOf = ({ edition, frame }: Work, sources: readonly string[], recipe: readonly unknown[]): Recipe => ({
  kind: 'coded',
  edition: [codingOf(frame), stillFilter(frame), edition],
  sources,
  recipe,
  extension: 'h264',
})
