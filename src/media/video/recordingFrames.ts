import { FRAME_RATE, type Seconds } from '@/core/units'
import type { Raster } from '@/core/picture/raster'
import { inputOf, probeFile } from '../ffmpeg'
import { identifyFile } from '../import/identify'
import { FRAME } from '@/core/picture/frame'
import { CODING_MEMORY, runProgram } from '../process'
import { PARTS, type MediaStore } from '../store/store'
import { recordingFilter } from './coding'

/** Pictures of a recording, from a moment of its file on, as fast as it is to play; the last one goes on for ever. */
export async function recordingInput(
  store: MediaStore,
  media: string,
  from: Seconds,
  speed: number,
): Promise<{ input: string[]; filter: string }> {
  const original = await store.local(media, PARTS.original)
  const { demuxer } = await identifyFile(original, media)
  const { picture } = await probeFile(original, demuxer!, media)
  const { lastPicture: last } = await store.info(media)
  // From the key picture before: what is on the screen at a moment may have come long before it.
  const seek = ['-noaccurate_seek', '-ss', String(Math.min(from, last ?? Infinity))]
  const timed = `setpts=PTS/${speed},fps=${FRAME_RATE}:start_time=0`
  return {
    input: [...seek, ...inputOf(original, demuxer!)],
    filter: `${timed},${recordingFilter(picture!)},tpad=stop=-1:stop_mode=clone`,
  }
}

const FRAME_BYTES = FRAME.width * FRAME.height * 3

/** So many pictures of a recording, in colours. */
export async function* recordingFrames(
  store: MediaStore,
  media: string,
  from: Seconds,
  speed: number,
  count: number,
  signal?: AbortSignal,
): AsyncGenerator<Raster> {
  // Read in parts: a second of them takes 190 MB.
  for (let done = 0; done < count; done += AT_ONCE) {
    const part = Math.min(AT_ONCE, count - done)
    const { input, filter } = await recordingInput(store, media, from + (done / FRAME_RATE) * speed, speed)
    const coloured = `${filter},scale=in_color_matrix=bt709:in_range=tv,format=rgb24`
    const args = ['-v', 'error', ...input, '-map', '0:v:0', '-an', '-vf', coloured, '-frames:v', String(part)]
    const raw = await runProgram('ffmpeg', [...args, '-fps_mode', 'passthrough', '-f', 'rawvideo', 'pipe:1'], {
      memory: CODING_MEMORY,
      limit: 3600,
      signal,
    })
    for (let i = 0; i < part; i++)
      yield { width: FRAME.width, height: FRAME.height, data: raw.subarray(i * FRAME_BYTES, (i + 1) * FRAME_BYTES) }
  }
}

const AT_ONCE = 20 // frames
