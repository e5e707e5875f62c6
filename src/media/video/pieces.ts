import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import type { Picture } from '@/core/lesson/document'
import type { PictureLayer, Shot } from '@/core/picture/shots'
import { FRAME_RATE } from '@/core/units'
import { drawCard } from './card'
import { inputOf, probeFile } from '../ffmpeg'
import { identifyFile } from '../import/identify'
import { CODING_MEMORY, runProgram } from '../process'
import type { Assets, Recipe } from '../store/assets'
import { PARTS, type MediaStore } from '../store/store'
import { NAL, parameterSets, splitNals } from './annexB'
import { CODING, KEY_INTERVAL, recordingFilter, STILL_FILTER } from './coding'

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

export async function openPieceMaker(store: MediaStore, assets: Assets, signal?: AbortSignal): Promise<PieceMaker> {
  const repeats = await codedRepeats(signal)
  const work: Work = { store, assets, edition: repeats.edition, signal }

  async function* hold(key: Buffer, frames: number): AsyncGenerator<Buffer> {
    for (let left = frames; left > 0; left -= KEY_INTERVAL) {
      yield Buffer.concat([key, ...repeats.pictures.slice(0, Math.min(left, KEY_INTERVAL) - 1)])
    }
  }

  /** The file of what moves, if anything does, and the one picture that is held. */
  async function coded(layer: PictureLayer): Promise<{ moving: string | null; held: Buffer }> {
    const { picture } = layer
    if (picture.kind !== 'recording') return { moving: null, held: await codedStill(work, picture) }
    const moving = await codedMovement(work, layer)
    return { moving: layer.moving > 0 ? moving : null, held: await lastPicture(work, layer, moving) }
  }

  return {
    async prepare(shots) {
      for (const { layers } of shots) await coded(layers[0])
    },
    async *streamOf({ frames, layers }) {
      const [layer] = layers
      const { moving, held } = await coded(layer)
      if (moving) {
        joinable(await firstBytes(moving), repeats.sets)
        // An hour of a recording is more than memory holds.
        yield* createReadStream(moving, { highWaterMark: 1 << 20 }) as AsyncIterable<Buffer>
      }
      if (frames > layer.moving) yield* hold(joinable(held, repeats.sets), frames - layer.moving)
    },
  }
}

interface Work {
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

/** What is told apart of a recording's movement. A picture that only stands is coded like the first of a movement. */
const movementOf = ({ picture, from, moving, speed }: PictureLayer) => ({
  media: picture.kind === 'recording' ? picture.media : '',
  from,
  frames: Math.max(1, moving),
  speed,
})

/** The file of a recording's moving part. */
async function codedMovement(work: Work, layer: PictureLayer): Promise<string> {
  const { store, assets, signal } = work
  const { media, from, frames, speed } = movementOf(layer)
  const recipe = recipeOf(work, [media], [from, frames, speed, MOVEMENT_EDITION])
  return assets.file(recipe, async (draft) => {
    const original = await store.local(media, PARTS.original)
    const { demuxer } = await identifyFile(original, media)
    const { picture } = await probeFile(original, demuxer!, media)
    const { lastPicture: last } = await store.info(media)
    // From the key picture before: what is on the screen at a moment may have come long before it.
    const seek = ['-noaccurate_seek', '-ss', String(Math.min(from, last ?? Infinity))]
    const filter = `setpts=PTS/${speed},fps=${FRAME_RATE}:start_time=0,${recordingFilter(picture!)},tpad=stop=-1:stop_mode=clone`
    await code([...seek, ...inputOf(original, demuxer!)], frames, filter, { signal, out: draft })
  })
}

/** Raised when the same part of a recording comes to be coded otherwise. */
const MOVEMENT_EDITION = 3

/** The last picture of a movement alone, to be held. */
async function lastPicture(work: Work, layer: PictureLayer, moving: string): Promise<Buffer> {
  const { media, from, frames, speed } = movementOf(layer)
  const recipe = recipeOf(work, [media], [from, frames, speed, MOVEMENT_EDITION, 'last'])
  return work.assets.bytes(recipe, async () => {
    const only = ['-v', 'error', '-f', 'h264', '-i', `file:${moving}`, '-vf', `select=eq(n\\,${frames - 1})`]
    const args = [...only, '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', 'pipe:1']
    const png = await runProgram('ffmpeg', args, { memory: CODING_MEMORY, limit: 600, signal: work.signal })
    return codePicture(work, ['-f', 'png_pipe', '-i', 'pipe:0'], png)
  })
}

interface Coding {
  signal?: AbortSignal
  /** What the input is fed with. */
  fed?: Buffer
  /** A file to write; returned as bytes where none is given. */
  out?: string
}

/** Codes exactly `frames` pictures. */
function code(input: string[], frames: number, filter: string, { signal, fed, out }: Coding): Promise<Buffer> {
  const args = ['-v', 'error', '-y', ...input, '-map', '0:v:0', '-an', '-vf', filter, '-frames:v', String(frames)]
  return runProgram('ffmpeg', [...args, ...CODING, '-f', 'h264', out ? `file:${out}` : 'pipe:1'], {
    memory: CODING_MEMORY,
    limit: 4 * 3600,
    signal,
    feed: fed && feeding(fed),
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
