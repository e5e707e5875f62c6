import { join } from 'node:path'
import type { Seconds } from '@/core/units'
import { inputOf } from '../ffmpeg'
import type { RenderOptions } from '../mixdown'
import { CODING_MEMORY, runProgram } from '../process'

/** How a finished MP4 is coded once more. Captions, chapters, title and language go along. */
export type Recoding = 'webm' | 'small'

const RECODINGS: Record<Recoding, { ending: string; demuxer: string; coding: readonly string[] }> = {
  // VP9 in its quick way: still pictures cost next to nothing after their first frame.
  webm: {
    ending: 'webm',
    demuxer: 'matroska',
    coding: [
      ...['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-row-mt', '1', '-crf', '24', '-b:v', '0'],
      ...['-g', '240', '-c:a', 'libopus', '-b:a', '128k'],
    ],
  },
  small: {
    ending: 'mp4',
    demuxer: 'mov',
    coding: [
      ...[
        '-vf',
        "scale='if(gt(a,1),-2,540)':'if(gt(a,1),540,-2)':flags=lanczos",
        '-c:v',
        'libx264',
        '-preset',
        'veryfast',
        '-crf',
        '23',
      ],
      ...['-tune', 'animation', '-g', '240', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-b:a', '96k'],
      ...['-movflags', '+faststart'],
    ],
  },
}

/** What Opus is coded with before its first sample (RFC 7845, pre-skip), at 48 kHz; by as much the picture would begin later. */
const OPUS_LEAD: Seconds = 312 / 48_000

/** What an MP4 says of its own kind is true of nothing else; an MP4 writes it anew. */
const OF_MP4_ALONE = ['major_brand', 'minor_version', 'compatible_brands'].flatMap((tag) => ['-metadata', `${tag}=`])

/**
 * `captions`: a file of WebVTT, which Matroska holds as it is. `length`: of the video, for the progress. The new file lies
 * in `work`.
 */
export async function recode(
  video: string,
  recoding: Recoding,
  captions: string | null,
  work: string,
  length: Seconds,
  { signal, onProgress }: RenderOptions,
): Promise<{ file: string; demuxer: string }> {
  const { ending, demuxer, coding } = RECODINGS[recoding]
  const file = join(work, `recoded.${ending}`)
  const isVtt = demuxer === 'matroska' && captions !== null
  const sound = [...(demuxer === 'matroska' ? ['-itsoffset', String(OPUS_LEAD)] : []), ...inputOf(video, 'mov')]
  const inputs = [...inputOf(video, 'mov'), ...sound, ...(isVtt ? inputOf(captions, 'webvtt') : [])]
  const texts = isVtt ? ['-map', '2:s', '-map_metadata:s:s:0', '0:s:s:0'] : ['-map', '0:s?']
  const told = ['-map', '0:v', '-map', '1:a', ...texts, '-map_metadata', '0', ...OF_MP4_ALONE, '-map_chapters', '0']
  const args = ['-v', 'error', '-y', '-progress', 'pipe:1', ...inputs, ...told, ...coding, '-c:s', 'copy']
  await runProgram('ffmpeg', [...args, '-fps_mode', 'passthrough', file], {
    memory: CODING_MEMORY,
    limit: 6 * 3600,
    signal,
    onOutput(chunk) {
      const done = /out_time_us=(\d+)/g
      for (const [, time] of chunk.toString().matchAll(done)) onProgress?.(Math.min(1, Number(time) / 1e6 / length))
    },
  })
  return { file, demuxer }
}
