import { join } from 'node:path'
import type { Hertz, Seconds } from '@/core/units'
import { COMMON_FRAME } from '@/core/picture/frame'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { inputOf, orDamaged, type Probe } from '../ffmpeg'
import { CODING_MEMORY, runProgram } from '../process'
import { makePage, pictureIn } from '../import/stills'
import { PARTS } from '../store/store'
import { proxyFilter } from './recordingPicture'
import { codingOf } from './coding'

/** Of the copy that plays in the page; the video is made from the file itself. */
export const PROXY_RATE: Hertz = 30
const LIMIT: Seconds = 4 * 3600
const MOST_PIXELS = 8192 * 4320

/**
 * Makes the copy of a recording's picture that plays everywhere, and its thumbnail. Where
 * its sound is longer (`heard`), the last picture stays as long: screen recorders write none while nothing changes.
 */
export async function importRecording(
  path: string,
  demuxer: string,
  name: string,
  probe: Probe,
  folder: string,
  heard: Seconds,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<{ length: Seconds; lastPicture: Seconds | null; isDark: boolean }> {
  const { width, height } = probe.picture!
  if (width * height > MOST_PIXELS) {
    throw new UserError(say('imports.recordingTooLarge', { name, width, height }))
  }
  const last = heard > 0 ? await findLastPicture(path, demuxer, name) : null
  const stays = last && heard - last.end > 1 / PROXY_RATE ? heard - last.end : 0
  let frames = 0
  const proxy = join(folder, PARTS.proxy)
  const filter = [`fps=${PROXY_RATE}:start_time=0`, proxyFilter(probe.picture!)]
  if (stays > 0) filter.push(`tpad=stop_mode=clone:stop_duration=${stays.toFixed(3)}`)
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
    filter.join(','),
    ...codingOf({ ...COMMON_FRAME, rate: PROXY_RATE }),
    '-movflags',
    '+faststart',
    proxy,
  ]
  const onOutput = (chunk: Buffer) => {
    const frame = [...chunk.toString().matchAll(/frame=(\d+)/g)].at(-1)
    if (frame) frames = Number(frame[1])
    if (probe.length) onProgress?.(Math.min(1, frames / PROXY_RATE / probe.length))
  }
  await orDamaged(name, () => runProgram('ffmpeg', args, { limit: LIMIT, memory: CODING_MEMORY, signal, onOutput }))
  if (frames === 0) throw new UserError(say('imports.thereIsNoPicture', { name }))
  const { isDark } = await makePage(pictureIn(await frameAt(proxy, Math.min(1, frames / PROXY_RATE / 2))), folder, 1)
  return { length: frames / PROXY_RATE, lastPicture: stays > 0 ? last!.start : null, isDark }
}

/** The last coded picture by its time stamps, without decoding; null where the file has none. */
async function findLastPicture(
  path: string,
  demuxer: string,
  name: string,
): Promise<{ start: Seconds; end: Seconds } | null> {
  let last: { start: Seconds; end: Seconds } | null = null
  let rest = ''
  const args = ['-v', 'error', ...inputOf(path, demuxer), '-select_streams', 'v:0']
  const show = ['-show_entries', 'packet=pts_time,duration_time', '-of', 'csv=p=0']
  const onOutput = (chunk: Buffer) => {
    const lines = (rest + chunk.toString()).split('\n')
    rest = lines.pop()!
    for (const line of lines) {
      const [start, length] = line.split(',').map(Number) as [number, number]
      if (Number.isFinite(start) && start >= (last?.start ?? 0))
        last = { start, end: start + (Number.isFinite(length) ? length : 1 / PROXY_RATE) }
    }
  }
  await orDamaged(name, () => runProgram('ffprobe', [...args, ...show], { limit: PROBE_LIMIT, onOutput }))
  return last
}

const PROBE_LIMIT: Seconds = 600

/** One picture of a proxy, as PNG. */
export function frameAt(proxy: string, time: Seconds): Promise<Buffer> {
  const args = ['-v', 'error', '-nostdin', '-ss', String(time), ...inputOf(proxy, 'mov')]
  return runProgram('ffmpeg', [...args, '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', 'pipe:1'], { limit: 60 })
}
