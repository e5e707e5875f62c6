import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import type { Writable } from 'node:stream'
import type { Picture } from '@/core/lesson/document'
import type { Look } from '@/core/lesson/layers'
import type { Shot } from '@/core/picture/shots'
import type { Stack } from '@/core/picture/stack'
import { FRAME_RATE } from '@/core/units'
import { FRAME } from '@/core/picture/frame'
import { CODING_MEMORY, runProgram, writeTo } from '../process'
import type { Assets, Recipe } from '../store/assets'
import { PARTS, type MediaStore } from '../store/store'
import { NAL, parameterSets, splitNals } from './annexB'
import { drawCard } from './card'
import { CODING, KEY_INTERVAL, STILL_FILTER } from './coding'
import { drawStacks, mediaOfStacks, tellStacks } from './drawStacks'
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
  store: MediaStore,
  assets: Assets,
  signal?: AbortSignal,
): Promise<PieceMaker> {
  const repeats = await codedRepeats(signal)
  const work: Work = { look, store, assets, edition: repeats.edition, signal }

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
      for (const shot of shots) await (shot.kind === 'stands' ? codedStack(work, shot.stack) : codedFrames(work, shot))
    },
    async *streamOf(shot) {
      if (shot.kind === 'stands') yield* hold(joinable(await codedStack(work, shot.stack), repeats.sets), shot.frames)
      else yield* parts(await codedFrames(work, shot))
    },
  }
}

const codedFrames = (work: Work, shot: Exclude<Shot, { kind: 'stands' }>): Promise<string> =>
  shot.kind === 'plays' ? codedMovement(work, shot) : codedDrawing(work, shot.stacks)

export interface Work {
  look: Look
  store: MediaStore
  assets: Assets
  /** Of the coder. */
  edition: string
  signal?: AbortSignal
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
async function codedRepeats(signal?: AbortSignal): Promise<Repeats> {
  const black = ['-f', 'lavfi', '-i', `color=black:size=16x16:rate=${FRAME_RATE}`]
  const stream = await code(black, KEY_INTERVAL, STILL_FILTER, { signal })
  const nals = splitNals(stream)
  const pictures = nals.filter(({ type }) => type === NAL.slice).map(({ bytes }) => bytes)
  if (pictures.length !== KEY_INTERVAL - 1)
    throw new Error(`expected one slice a repeated picture, got ${pictures.length}`)
  const edition = createHash('sha256').update(stream).digest('hex')
  return { sets: parameterSets(nals), pictures, edition }
}

async function codedStill(work: Work, picture: Exclude<Picture, { kind: 'recording' }>): Promise<Buffer> {
  if (picture.kind === 'still') {
    const { media, page } = picture
    return work.assets.bytes(recipeOf(work, [media], [page]), async () => {
      const path = await work.store.local(media, PARTS.page(page))
      return codePicture(work, ['-f', 'png_pipe', '-i', `file:${path}`])
    })
  }
  const svg = await drawCard(picture.lines)
  return work.assets.bytes(recipeOf(work, [], [svg]), async () => {
    const { default: sharp } = await import('sharp')
    const png = await sharp(Buffer.from(svg)).png({ compressionLevel: 1 }).toBuffer()
    return codePicture(work, ['-f', 'png_pipe', '-i', 'pipe:0'], png)
  })
}

const codePicture = (work: Work, input: string[], fed?: Buffer) => code(input, 1, STILL_FILTER, { ...work, fed })

/** A picture that stands, with what lies over it. */
async function codedStack(work: Work, stack: Stack): Promise<Buffer> {
  const [side] = stack.sides
  const { picture } = side.span
  if (picture.kind !== 'recording' && isBare(stack)) return codedStill(work, picture)
  return work.assets.bytes(recipeOf(work, mediaOfStacks([stack]), [tellStacks([stack]), work.look]), () =>
    code(RAW_INPUT, 1, STILL_FILTER, { ...work, feed: feedingFrames(work, [stack]) }),
  )
}

const isBare = ({ sides: [side], between, veil }: Stack) =>
  !between && veil === 0 && side.layers.length === 0 && side.seen.width === 1

/** The file of frames that are drawn each by itself. */
async function codedDrawing(work: Work, stacks: readonly Stack[]): Promise<string> {
  const recipe = recipeOf(work, mediaOfStacks(stacks), [tellStacks(stacks), work.look])
  return work.assets.file(recipe, async (draft) => {
    const feed = feedingFrames(work, stacks)
    await code(RAW_INPUT, stacks.length, STILL_FILTER, { ...work, feed, out: draft })
  })
}

const RAW_INPUT = [
  ...['-f', 'rawvideo', '-pixel_format', 'rgb24', '-video_size', `${FRAME.width}x${FRAME.height}`],
  ...['-framerate', String(FRAME_RATE), '-i', 'pipe:0'],
]

const feedingFrames = (work: Work, stacks: readonly Stack[]) => async (input: Writable) => {
  for await (const { data } of drawStacks(work, stacks)) await writeTo(input, data)
}

/** The file of a recording's moving part. */
async function codedMovement(
  work: Work,
  { media, from, frames, speed }: Extract<Shot, { kind: 'plays' }>,
): Promise<string> {
  const { store, assets, signal } = work
  const recipe = recipeOf(work, [media], [from, frames, speed, MOVEMENT_EDITION])
  return assets.file(recipe, async (draft) => {
    const { input, filter } = await recordingInput(store, media, from, speed)
    await code(input, frames, filter, { signal, out: draft })
  })
}

/** Raised when the same part of a recording comes to be coded otherwise. */
const MOVEMENT_EDITION = 3

interface Coding {
  signal?: AbortSignal
  /** What the input is fed with. */
  fed?: Buffer
  feed?: (input: Writable) => Promise<void>
  /** A file to write; returned as bytes where none is given. */
  out?: string
}

/** Codes exactly `frames` pictures. */
function code(input: string[], frames: number, filter: string, { signal, fed, feed, out }: Coding): Promise<Buffer> {
  const args = ['-v', 'error', '-y', ...input, '-map', '0:v:0', '-an', '-vf', filter, '-frames:v', String(frames)]
  return runProgram('ffmpeg', [...args, ...CODING, '-f', 'h264', out ? `file:${out}` : 'pipe:1'], {
    memory: CODING_MEMORY,
    limit: 4 * 3600,
    signal,
    feed: feed ?? (fed && feeding(fed)),
  })
}

/** Coded pieces depend on how they are coded, and by which edition of the coder. */
const recipeOf = ({ edition }: Work, sources: readonly string[], recipe: readonly unknown[]): Recipe => ({
  kind: 'coded',
  edition: [CODING, STILL_FILTER, edition],
  sources,
  recipe,
  extension: 'h264',
})

const feeding = (bytes: Buffer) => async (input: NodeJS.WritableStream) => void input.write(bytes)
