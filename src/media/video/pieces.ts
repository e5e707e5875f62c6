import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import type { Writable } from 'node:stream'
import type { Look } from '@/core/lesson/layers'
import type { Shot } from '@/core/picture/shots'
import type { Stack } from '@/core/picture/stack'
import { rasterSize, type Frame } from '@/core/picture/frame'
import type { FrameIndex } from '@/core/units'
import { inParallel } from '../inParallel'
import { CODING_MEMORY, runProgram, writeWhole } from '../process'
import type { Assets, Recipe } from '../store/assets'
import type { MediaStore } from '../store/store'
import { NAL, parameterSets, splitNals, splitPieces } from './annexB'
import { codingOf, drawnCodingOf, KEY_INTERVAL, stillFilter } from './coding'
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
      const repeated = Array.from({ length: Math.min(left, KEY_INTERVAL) - 1 }, (_, i) => repeats.pictures[i % CYCLE]!)
      yield Buffer.concat([key, ...repeated])
    }
  }

  async function* parts(path: string): AsyncGenerator<Buffer> {
    joinable(await firstBytes(path), repeats.sets)
    // An hour of a recording is more than memory holds.
    yield* createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>
  }

  return {
    async prepare(shots) {
      const drawn = shots.flatMap((shot) => (shot.kind === 'plays' ? [] : [stacksOf(shot)]))
      await inParallel(batchesOf(work, drawn.filter(isShort)), async (batch) => void (await codedBatch(work, batch)))
      const long = shots.filter((shot) => shot.kind === 'plays' || !isShort(stacksOf(shot)))
      await inParallel(long, async (shot) => void (await codedFile(work, shot)))
    },
    async *streamOf(shot) {
      if (shot.kind === 'plays' || !isShort(stacksOf(shot))) return yield* parts(await codedFile(work, shot))
      const [piece] = await codedBatch(work, [stacksOf(shot)])
      joinable(piece!, repeats.sets)
      if (shot.kind === 'stands') yield* hold(piece!, shot.frames)
      else yield piece!
    },
  }
}

type Drawn = Exclude<Shot, { kind: 'plays' }>

/** What is drawn of it, each frame once. */
const stacksOf = (shot: Drawn): readonly Stack[] => (shot.kind === 'stands' ? [shot.stack] : shot.stacks)

/** What is longer would fill memory. */
const SHORT: FrameIndex = 64
const isShort = (stacks: readonly Stack[]) => stacks.length <= SHORT

const codedFile = (work: Work, shot: Shot): Promise<string> =>
  shot.kind === 'plays' ? codedMovement(work, shot) : codedDrawing(work, stacksOf(shot))

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

/** A repeated picture tells its number by four bits, so that these come round again. */
const CYCLE = 16

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
  const stream = await code(frame, black, CYCLE + 1, codingOf(frame), { signal })
  const nals = splitNals(stream)
  const pictures = nals.filter(({ type }) => type === NAL.slice).map(({ bytes }) => bytes)
  if (pictures.length !== CYCLE) throw new Error(`expected one slice a repeated picture, got ${pictures.length}`)
  const edition = createHash('sha256').update(stream).digest('hex')
  return { sets: parameterSets(nals), pictures, edition }
}

/** Frames coded by one run of the coder: to start it costs as much as some pictures do. */
const BATCH: FrameIndex = 96

/** Pieces that are coded together, each once. */
function batchesOf(work: Work, pieces: readonly (readonly Stack[])[]): (readonly Stack[])[][] {
  const distinct = new Map(pieces.map((piece) => [JSON.stringify(recipeOfDrawn(work, piece)), piece]))
  const batches: (readonly Stack[])[][] = []
  let room = 0
  for (const piece of distinct.values()) {
    if (piece.length > room) {
      batches.push([])
      room = BATCH
    }
    batches.at(-1)!.push(piece)
    // A picture that is new to the coder costs it as much as some that follow it.
    room -= piece.length + KEY_COST
  }
  return batches
}

const KEY_COST: FrameIndex = 8

/** Short pieces that are drawn: what stands is one picture each. */
const codedBatch = (work: Work, pieces: readonly (readonly Stack[])[]): Promise<Buffer[]> =>
  work.assets.all(
    pieces.map((piece) => recipeOfDrawn(work, piece)),
    async (missing, keep) => {
      const wanted = missing.map((i) => pieces[i]!)
      const coded = splitPieces(
        await codeDrawn(work, wanted),
        wanted.map(({ length }) => length),
      )
      for (const [at, i] of missing.entries()) await keep(i, coded[at]!)
    },
  )

/** The file of a long one. */
const codedDrawing = (work: Work, stacks: readonly Stack[]): Promise<string> =>
  work.assets.file(recipeOfDrawn(work, stacks), async (draft) => void (await codeDrawn(work, [stacks], draft)))

/** Another look changes only what shows something of it. */
function recipeOfDrawn(work: Work, stacks: readonly Stack[]): Recipe {
  const look = stacks.every(isPlain) ? null : work.look
  return recipeOf(work, mediaOfStacks(stacks), [tellStacks(stacks), look, drawnCodingOf(work.frame)])
}

const isPlain = ({ sides, veil }: Stack) => veil === 0 && sides.every(({ layers }) => layers.length === 0)

/** Draws and codes pieces one after the other; each begins with a key picture. */
function codeDrawn(work: Work, pieces: readonly (readonly Stack[])[], out?: string): Promise<Buffer> {
  const { frame, signal } = work
  const begins = pieces.map((_, i) => pieces.slice(0, i).reduce((sum, { length }) => sum + length, 0))
  const total = pieces.reduce((sum, { length }) => sum + length, 0)
  const coding = [
    ...drawnCodingOf(frame),
    '-force_key_frames',
    `expr:${begins.map((begin) => `eq(n,${begin})`).join('+')}`,
  ]
  const feed = async (input: Writable) => {
    for (const piece of pieces) for await (const { data } of drawStacks(work, piece)) await writeWhole(input, data)
  }
  return code(frame, rawInput(frame), total, coding, { signal, out, feed })
}

function rawInput(frame: Frame): string[] {
  const { width, height } = rasterSize(frame)
  const raw = ['-f', 'rawvideo', '-pixel_format', 'rgb24', '-video_size', `${width}x${height}`]
  return [...raw, '-framerate', String(frame.rate), '-i', 'pipe:0']
}

/** The file of a recording's moving part. */
async function codedMovement(work: Work, shot: Extract<Shot, { kind: 'plays' }>): Promise<string> {
  const { frame, assets, signal } = work
  const { media, framing, from, frames, speed } = shot
  const recipe = recipeOf(work, [media], [from, frames, speed, framing, MOVEMENT_EDITION])
  return assets.file(recipe, async (draft) => {
    const { input, filter } = await recordingInput(work, shot)
    await code(frame, input, frames, codingOf(frame), { signal, out: draft, filter })
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
  /** What is done with the pictures before, where it is more than to bring them to the video's colours. */
  filter?: string
}

/** Codes exactly `frames` pictures. */
function code(
  frame: Frame,
  input: string[],
  frames: number,
  coding: readonly string[],
  { signal, feed, out, filter = stillFilter(frame) }: Coding,
): Promise<Buffer> {
  const args = ['-v', 'error', '-y', ...input, '-map', '0:v:0', '-an', '-vf', filter, '-frames:v', String(frames)]
  return runProgram('ffmpeg', [...args, ...coding, '-f', 'h264', out ? `file:${out}` : 'pipe:1'], {
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
