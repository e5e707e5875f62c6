import { join } from 'node:path'
import { FRAME_RATE, type Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { inputOf, orDamaged, type Probe } from '../ffmpeg'
import { runProgram } from '../process'
import { makePage } from '../stills'
import { PARTS } from '../store'
import { CODING, FIT_FILTER } from './coding'

const LIMIT: Seconds = 4 * 3600
const MOST_PIXELS = 8192 * 4320

/** Makes the copy of a recording's picture that plays everywhere, and its thumbnail. Returns the picture's length. */
export async function importRecording(
  path: string,
  demuxer: string,
  name: string,
  probe: Probe,
  folder: string,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<Seconds> {
  const { width, height } = probe.picture!
  if (width * height > MOST_PIXELS) {
    throw new UserError(
      `This recording is too large: ${name} has ${width} x ${height} pixels. Save it with at most 3840 x 2160.`,
    )
  }
  let frames = 0
  const proxy = join(folder, PARTS.proxy)
  const args = [
    '-v',
    'error',
    '-nostdin',
    '-progress',
    'pipe:1',
    ...inputOf(path, demuxer),
    '-map',
    '0:v:0',
    '-an',
    '-sn',
    '-vf',
    FIT_FILTER,
    ...CODING,
    '-movflags',
    '+faststart',
    proxy,
  ]
  const onOutput = (chunk: Buffer) => {
    const frame = /frame=(\d+)(?![\s\S]*frame=)/.exec(chunk.toString())
    if (frame) frames = Number(frame[1])
    if (probe.length) onProgress?.(Math.min(1, frames / FRAME_RATE / probe.length))
  }
  await orDamaged(name, () => runProgram('ffmpeg', args, { limit: LIMIT, signal, onOutput }))
  if (frames === 0) throw new UserError(`There is no picture in this recording: ${name}. Record or save it again.`)
  await makePage(await frameAt(proxy, Math.min(1, frames / FRAME_RATE / 2)), folder, 1)
  return frames / FRAME_RATE
}

/** One picture of a proxy, as PNG. */
export function frameAt(proxy: string, time: Seconds): Promise<Buffer> {
  const args = ['-v', 'error', '-nostdin', '-ss', String(time), ...inputOf(proxy, 'mov')]
  return runProgram('ffmpeg', [...args, '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', 'pipe:1'], { limit: 60 })
}
