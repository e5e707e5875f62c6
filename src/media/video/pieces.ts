import type { Picture, RecordingPicture } from '@/core/lesson/document'
import type { PictureRun } from '@/core/lesson/picturePlan'
import { FRAME_RATE } from '@/core/units'
import { drawCard } from '../card'
import { inputOf } from '../ffmpeg'
import { identifyFile } from '../identify'
import { CODING_MEMORY, runProgram } from '../process'
import { keepResult } from '../results'
import { PARTS, type MediaStore } from '../store'
import { NAL, parameterSets, splitNals } from './annexB'
import { CODING, FIT_FILTER, KEY_INTERVAL } from './coding'

/**
 * Coded pieces of a video. A still is one coded picture, followed by pictures that say 'as before' for as long as it
 * stays; only recordings are really coded. Pieces are kept, so that a video made again codes only what has changed.
 */
export interface PieceMaker {
  /** Codes what is not there yet, so that the streams come at once. */
  prepare(runs: readonly PictureRun[]): Promise<void>
  /** The H.264 byte stream of one run, in parts. */
  streamOf(run: PictureRun): AsyncGenerator<Buffer>
}

export async function openPieceMaker(store: MediaStore, cache: string, signal?: AbortSignal): Promise<PieceMaker> {
  const repeats = await codedRepeats(cache, signal)

  async function* hold(key: Buffer, frames: number): AsyncGenerator<Buffer> {
    for (let left = frames; left > 0; left -= KEY_INTERVAL) {
      yield Buffer.concat([key, ...repeats.pictures.slice(0, Math.min(left, KEY_INTERVAL) - 1)])
    }
  }

  /** The one picture of a still, or the moving part of a recording and its last picture. */
  async function coded(run: PictureRun): Promise<{ moving?: Buffer; held: Buffer }> {
    const { picture } = run
    if (picture.kind !== 'recording') return { held: await codedStill(store, picture, cache, signal) }
    return codedRecording(store, picture, run, cache, signal)
  }

  return {
    async prepare(runs) {
      for (const run of runs) await coded(run)
    },
    async *streamOf(run) {
      const { moving, held } = await coded(run)
      if (moving) yield joinable(moving, repeats.sets)
      if (run.frames > run.moving) yield* hold(joinable(held, repeats.sets), run.frames - run.moving)
    },
  }
}

function joinable(piece: Buffer, sets: Buffer): Buffer {
  if (!parameterSets(splitNals(piece.subarray(0, 4096))).equals(sets)) {
    throw new Error('a coded piece has parameter sets of its own and can not be joined')
  }
  return piece
}

/** Pictures that repeat the one before, made from black: they say nothing about what is repeated. */
async function codedRepeats(cache: string, signal?: AbortSignal): Promise<{ sets: Buffer; pictures: Buffer[] }> {
  const stream = await kept(cache, ['repeats', KEY_INTERVAL], 'h264', () =>
    code(['-f', 'lavfi', '-i', `color=black:size=16x16:rate=${FRAME_RATE}`], KEY_INTERVAL, signal),
  )
  const nals = splitNals(stream)
  const pictures = nals.filter(({ type }) => type === NAL.slice).map(({ bytes }) => bytes)
  if (pictures.length !== KEY_INTERVAL - 1)
    throw new Error(`expected one slice a repeated picture, got ${pictures.length}`)
  return { sets: parameterSets(nals), pictures }
}

async function codedStill(
  store: MediaStore,
  picture: Exclude<Picture, { kind: 'recording' }>,
  cache: string,
  signal?: AbortSignal,
) {
  if (picture.kind === 'still') {
    const page = store.path(picture.media, PARTS.page(picture.page))
    return kept(cache, [picture.media, picture.page], 'h264', () =>
      codePicture(['-f', 'png_pipe', '-i', `file:${page}`], signal),
    )
  }
  const svg = drawCard(picture.lines)
  return kept(cache, [svg], 'h264', async () => {
    const { default: sharp } = await import('sharp')
    const png = await sharp(Buffer.from(svg)).png({ compressionLevel: 1 }).toBuffer()
    return codePicture(['-f', 'png_pipe', '-i', 'pipe:0'], signal, png)
  })
}

const codePicture = (input: string[], signal?: AbortSignal, fed?: Buffer) => code(input, 1, signal, fed)

/** The moving part of a recording, and its last picture alone, to be held. */
async function codedRecording(
  store: MediaStore,
  { media }: RecordingPicture,
  { from, speed, moving: moves }: PictureRun,
  cache: string,
  signal?: AbortSignal,
): Promise<{ moving?: Buffer; held: Buffer }> {
  const original = store.path(media, PARTS.original)
  // A picture that only stands is coded like the first of a movement.
  const frames = Math.max(1, moves)
  const key = [media, from, frames, speed]
  const moving = await kept(cache, key, 'h264', async () => {
    const { demuxer } = await identifyFile(original, media)
    const { lastPicture } = await store.info(media)
    const start = Math.min(from, lastPicture ?? Infinity)
    return code(['-ss', String(start), ...inputOf(original, demuxer!)], frames, signal, undefined, speed)
  })
  if (moves === 0) return { held: moving }
  const held = await kept(cache, [...key, 'last'], 'h264', async () => {
    const only = ['-v', 'error', '-f', 'h264', '-i', 'pipe:0', '-vf', `select=eq(n\\,${frames - 1})`]
    const args = [...only, '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', 'pipe:1']
    const png = await runProgram('ffmpeg', args, { memory: CODING_MEMORY, limit: 600, signal, feed: feeding(moving) })
    return codePicture(['-f', 'png_pipe', '-i', 'pipe:0'], signal, png)
  })
  return { moving, held }
}

/** Codes exactly `frames` pictures; a source that ends early has its last one held. */
function code(input: string[], frames: number, signal?: AbortSignal, fed?: Buffer, speed = 1): Promise<Buffer> {
  const filter = `setpts=(PTS-STARTPTS)/${speed},${FIT_FILTER},tpad=stop=-1:stop_mode=clone`
  const args = ['-v', 'error', ...input, '-map', '0:v:0', '-an', '-vf', filter, '-frames:v', String(frames)]
  const feed = fed && feeding(fed)
  return runProgram('ffmpeg', [...args, ...CODING, '-f', 'h264', 'pipe:1'], {
    memory: CODING_MEMORY,
    limit: 4 * 3600,
    signal,
    feed,
  })
}

/** Coded pieces depend on how they are coded, too. */
const kept = (cache: string, key: readonly unknown[], extension: string, make: () => Promise<Buffer>) =>
  keepResult(cache, [CODING, FIT_FILTER, ...key], extension, make)

const feeding = (bytes: Buffer) => async (input: NodeJS.WritableStream) => void input.write(bytes)
