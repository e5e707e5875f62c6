import type { Framing } from '@/core/lesson/framing'
import { rasterSize, type Frame } from '@/core/picture/frame'
import type { Seconds } from '@/core/units'
import type { Raster } from '@/core/picture/raster'
import { inputOf, probeFile } from '../ffmpeg'
import { identifyFile } from '../import/identify'
import { CODING_MEMORY, runProgram } from '../process'
import { PARTS, type MediaStore } from '../store/store'
import { recordingFilter } from './recordingPicture'

/** What is seen of a recording: from a moment of its file on, so fast. */
export interface Playing {
  media: string
  framing: Framing
  from: Seconds
  speed: number
}

interface Source {
  store: MediaStore
  frame: Frame
  signal?: AbortSignal
}

/** The pictures of a recording as they stand in the frame; the last one goes on for ever. */
export async function recordingInput(
  { store, frame }: Source,
  { media, framing, from, speed }: Playing,
): Promise<{ input: string[]; filter: string }> {
  const original = await store.local(media, PARTS.original)
  const { demuxer } = await identifyFile(original, media)
  const { picture } = await probeFile(original, demuxer!, media)
  const { lastPicture: last, darkPages } = await store.info(media)
  // From the key picture before: what is on the screen at a moment may have come long before it.
  const seek = ['-noaccurate_seek', '-ss', String(Math.min(from, last ?? Infinity))]
  const timed = `setpts=PTS/${speed},fps=${frame.rate}:start_time=0`
  return {
    input: [...seek, ...inputOf(original, demuxer!)],
    filter: `${timed},${recordingFilter(picture!, frame, framing, darkPages.includes(1))},tpad=stop=-1:stop_mode=clone`,
  }
}

/** So many pictures of a recording, in colours. */
export async function* recordingFrames(source: Source, playing: Playing, count: number): AsyncGenerator<Raster> {
  const { width, height } = rasterSize(source.frame)
  const bytes = width * height * 3
  // Read in parts: a second of them takes 190 MB and more.
  for (let done = 0; done < count; done += AT_ONCE) {
    const part = Math.min(AT_ONCE, count - done)
    const { input, filter } = await recordingInput(source, {
      ...playing,
      from: playing.from + (done / source.frame.rate) * playing.speed,
    })
    const coloured = `${filter},scale=in_color_matrix=bt709:in_range=tv,format=rgb24`
    const args = ['-v', 'error', ...input, '-map', '0:v:0', '-an', '-vf', coloured, '-frames:v', String(part)]
    const raw = await runProgram('ffmpeg', [...args, '-fps_mode', 'passthrough', '-f', 'rawvideo', 'pipe:1'], {
      memory: CODING_MEMORY,
      limit: 3600,
      signal: source.signal,
    })
    for (let i = 0; i < part; i++) yield { width, height, data: raw.subarray(i * bytes, (i + 1) * bytes) }
  }
}

const AT_ONCE = 20 // frames
