import { open } from 'node:fs/promises'
import { z } from 'zod'
import { LIMITS } from '@/core/lesson/limits'
import { UserError } from '@/core/userError'
import type { Hertz, Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { ProgramError, runProgram, type RunOptions } from './process'

/**
 * Input options for one file. The demuxer is given, so that the content can't choose another, and only files may be
 * opened, so that nothing inside an upload leads to an address.
 */
export const inputOf = (path: string, demuxer: string): string[] => [
  '-protocol_whitelist',
  'file,pipe',
  '-f',
  demuxer,
  '-i',
  `file:${path}`,
]

let version: Promise<string> | undefined
/** Of the ffmpeg that is installed: what it made is kept only for as long as it is the same. */
export function ffmpegVersion(): Promise<string> {
  version ??= runProgram('ffmpeg', ['-version'], { limit: PROBE_LIMIT }).then(
    (printed) => printed.toString('utf8').split('\n')[0]!,
  )
  // A first failure is not the last word.
  version.catch(() => (version = undefined))
  return version
}

const DECODE_LIMIT: Seconds = 3600
const PROBE_LIMIT: Seconds = 30

const probeSchema = z.object({
  streams: z
    .array(
      z.object({
        codec_type: z.string().optional(),
        codec_name: z.string().optional(),
        sample_rate: z.coerce.number().optional(),
        channels: z.number().optional(),
        index: z.number(),
        width: z.number().optional(),
        height: z.number().optional(),
        sample_aspect_ratio: z.string().optional(),
        field_order: z.string().optional(),
        color_space: z.string().optional(),
        color_transfer: z.string().optional(),
        tags: z.object({ title: z.string().optional(), language: z.string().optional() }).optional(),
        disposition: z.object({ attached_pic: z.number(), default: z.number() }).partial().optional(),
        side_data_list: z.array(z.object({ rotation: z.number().optional() })).optional(),
      }),
    )
    .default([]),
  format: z.object({ duration: z.coerce.number().optional() }).default({}),
})

export interface Probe {
  /** Length the container states, where it does and does not only guess. */
  length: Seconds | null
  sound: SoundStream | null
  /** What its sound streams are called, in the order of the file, and which of them `sound` is. */
  soundTracks: string[]
  soundTrack: number
  picture: PictureStream | null
}

export interface SoundStream {
  /** Number of the stream in its file. */
  index: number
  rate: Hertz
  channels: number
}

/** As it is seen: upright. */
export interface PictureStream {
  width: number
  height: number
  /** Width of a pixel over its height. */
  pixelShape: number
  isInterlaced: boolean
  /** `high`: of a wide range of light (PQ or HLG). */
  range: 'usual' | 'high'
  /** By which colours were coded, as far as the file says. */
  matrix: string | null
}

export async function probeFile(path: string, demuxer: string, name: string): Promise<Probe> {
  const args = ['-v', 'error', ...inputOf(path, demuxer), '-show_streams', '-show_format', '-of', 'json']
  const output = await orDamaged(name, () => runProgram('ffprobe', args, { limit: PROBE_LIMIT }))
  const { streams, format } = readProbe(output, name)
  const sounds = streams.filter((stream) => stream.codec_type === 'audio' && stream.sample_rate && stream.channels)
  const sound = sounds.find(({ disposition }) => disposition?.default) ?? sounds[0]
  const picture = streams.find(
    (stream) => stream.codec_type === 'video' && !stream.disposition?.attached_pic && stream.width && stream.height,
  )
  if (sound) refuseOddSound(sound.sample_rate!, sound.channels!, name)
  if ((format.duration ?? 0) > LIMITS.length && !(await isEstimated(path, demuxer))) throw tooLong(name)
  return {
    length: (await isEstimated(path, demuxer)) ? null : (format.duration ?? null),
    soundTracks: sounds.map(({ tags }, i) => tags?.title || languageName(tags?.language) || `${i + 1}`),
    soundTrack: sound ? sounds.indexOf(sound) : 0,
    sound: sound ? { index: sound.index, rate: sound.sample_rate!, channels: sound.channels! } : null,
    picture: picture ? pictureOf(picture) : null,
  }
}

/** Of a code as files have it; null where it says nothing. */
function languageName(code: string | undefined): string | null {
  if (!code || code === 'und') return null
  try {
    return new Intl.DisplayNames('en', { type: 'language' }).of(code) ?? null
  } catch {
    return null
  }
}

const WIDE_RANGE = ['smpte2084', 'arib-std-b67']
/** As ffprobe calls them, and as its filters do. */
const MATRICES: Record<string, string> = {
  bt709: 'bt709',
  smpte170m: 'smpte170m',
  bt470bg: 'bt470',
  bt2020nc: 'bt2020',
  bt2020c: 'bt2020',
  fcc: 'fcc',
  smpte240m: 'smpte240m',
}

function pictureOf(stream: z.infer<typeof probeSchema>['streams'][number]): PictureStream {
  const turn = stream.side_data_list?.find(({ rotation }) => rotation !== undefined)?.rotation ?? 0
  const isTurned = Math.abs(turn % 180) === 90
  const [wide = 1, high = 1] = (stream.sample_aspect_ratio ?? '1:1').split(':').map(Number)
  const shape = wide > 0 && high > 0 ? wide / high : 1
  return {
    width: isTurned ? stream.height! : stream.width!,
    height: isTurned ? stream.width! : stream.height!,
    pixelShape: isTurned ? 1 / shape : shape,
    isInterlaced: ['tt', 'bb', 'tb', 'bt'].includes(stream.field_order ?? ''),
    range: WIDE_RANGE.includes(stream.color_transfer ?? '') ? 'high' : 'usual',
    matrix: MATRICES[stream.color_space ?? ''] ?? null,
  }
}

export const tooLong = (name: string) =>
  new UserError(say('imports.fileTooLong', { hours: LIMITS.length / 3600, name }))

function readProbe(output: Buffer, name: string): z.infer<typeof probeSchema> {
  const parsed = probeSchema.safeParse(JSON.parse(output.toString('utf8') || '{}'))
  if (parsed.success) return parsed.data
  throw new UserError(say('imports.fileDamaged', { name }), {
    cause: parsed.error,
  })
}

const RATES = { least: 4000, most: 768_000 } satisfies Record<string, Hertz>
/** 7.1 is the largest arrangement that has a common way down to two channels. */
const MOST_CHANNELS = 8

function refuseOddSound(rate: Hertz, channels: number, name: string): void {
  if (rate < RATES.least || rate > RATES.most) throw new UserError(say('imports.oddRate', { rate, name }))
  if (channels > MOST_CHANNELS)
    throw new UserError(say('imports.tooManyChannels', { channels, name, most: MOST_CHANNELS }))
}

/** Formats that don't state their length: what ffprobe says of them is reckoned from the first moments. */
async function isEstimated(path: string, demuxer: string): Promise<boolean> {
  if (demuxer === 'aac') return true
  if (demuxer !== 'mp3') return false
  const file = await open(path)
  try {
    const { bytesRead, buffer } = await file.read(Buffer.alloc(HEADER_SEARCH), 0, HEADER_SEARCH, 0)
    const head = buffer.subarray(0, bytesRead)
    return !['Xing', 'Info', 'VBRI'].some((mark) => head.includes(mark))
  } finally {
    await file.close()
  }
}

/** A picture of the cover may stand before the header of an MP3 file. */
const HEADER_SEARCH = 4 << 20

/** Formats whose parts carry time stamps, which need not follow each other. */
const STAMPED = ['mov', 'matroska', 'mpegts', 'avi', 'asf', 'ogg']
/** Gaps and overlaps from here on are real; smaller ones are how a format rounds its time stamps. */
const REAL_GAP: Seconds = 0.02

/**
 * Decodes a sound stream into interleaved 32-bit floats, chunk by chunk, each of whole frames. Time stamps decide where
 * samples are: a sound that begins later than the file begins with silence, and its gaps are silent.
 */
export async function decodeSound(
  path: string,
  demuxer: string,
  name: string,
  { rate, channels, index }: Omit<SoundStream, 'index'> & { index?: number },
  take: (samples: Float32Array) => void | Promise<void>,
  options: Pick<RunOptions, 'signal'> = {},
): Promise<void> {
  const args = [
    '-v',
    'error',
    '-nostdin',
    ...inputOf(path, demuxer),
    '-map',
    `0:${index ?? 'a:0'}`,
    '-vn',
    '-sn',
    ...(STAMPED.includes(demuxer) ? ['-af', `aresample=async=1:min_hard_comp=${REAL_GAP}:first_pts=0`] : []),
    '-ac',
    String(channels),
    '-ar',
    String(rate),
    '-f',
    'f32le',
    'pipe:1',
  ]
  const onOutput = inFloats(take, channels)
  await orDamaged(name, () => runProgram('ffmpeg', args, { limit: DECODE_LIMIT, onOutput, ...options }))
}

/** Takes a program's raw output as 32-bit floats, in whole frames of `channels` samples. */
export function inFloats(take: (samples: Float32Array) => void | Promise<void>, channels = 1) {
  const frame = channels * 4
  let rest = Buffer.alloc(0)
  return (chunk: Buffer) => {
    const bytes = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk
    const whole = bytes.length - (bytes.length % frame)
    rest = Buffer.from(bytes.subarray(whole))
    return take(floatsIn(bytes.subarray(0, whole)))
  }
}

/** A copy where the bytes begin at an address at which floats can't. */
const floatsIn = ({ buffer, byteOffset, byteLength }: Buffer): Float32Array =>
  byteOffset % 4 === 0
    ? new Float32Array(buffer, byteOffset, byteLength / 4)
    : new Float32Array(buffer.slice(byteOffset, byteOffset + byteLength))

/** What ffmpeg says about a file it can't read is for engineers; the author gets a sentence that tells whose fault it is. */
export async function orDamaged<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (!(error instanceof ProgramError)) throw error
    throw new UserError(sentenceFor(error, name), { cause: error })
  }
}

export function sentenceFor({ reason }: ProgramError, name: string): string {
  switch (reason) {
    case 'disk':
      return say('server.diskFull')
    case 'time':
      return say('imports.fileTakesLong', { name })
    case 'memory':
      return say('imports.fileNeedsMemory', { name })
    case 'missing':
      return say('imports.readerMissing', { name })
    case 'program':
      return say('imports.fileDamaged', { name })
  }
}

/** Splits interleaved samples into channels; into `out`, where that is given. */
export function deinterleave(samples: Float32Array, channels: number, out?: Float32Array[]): Float32Array[] {
  if (channels === 1) return [samples]
  const frames = samples.length / channels
  const apart = out ?? Array.from({ length: channels }, () => new Float32Array(frames))
  if (channels === 2) leftAndRight(samples, apart)
  else apart.forEach((channel, c) => takeEach(samples, c, channels, channel))
  return apart
}

function leftAndRight(samples: Float32Array, apart: Float32Array[]): void {
  const [left, right] = apart as [Float32Array, Float32Array]
  for (let i = 0, at = 0; at < samples.length; i++, at += 2) {
    left[i] = samples[at]!
    right[i] = samples[at + 1]!
  }
}

function takeEach(samples: Float32Array, first: number, step: number, out: Float32Array): void {
  for (let i = 0, at = first; at < samples.length; i++, at += step) out[i] = samples[at]!
}

export function interleave(channels: readonly Float32Array[]): Float32Array {
  const count = channels.length
  const frames = channels[0]?.length ?? 0
  const out = new Float32Array(frames * count)
  channels.forEach((channel, c) => {
    for (let i = 0, at = c; i < frames; i++, at += count) out[at] = channel[i]!
  })
  return out
}

export const bytesOf = (array: Float32Array): Uint8Array =>
  new Uint8Array(array.buffer, array.byteOffset, array.byteLength)
