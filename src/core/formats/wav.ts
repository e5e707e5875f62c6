import type { Hertz } from '@/core/units'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'

/** What the header of a WAV file tells. Lengths and offsets in bytes. */
export interface WavHeader {
  channels: number
  rate: Hertz
  encoding: 'pcm' | 'float'
  bitsPerSample: number
  dataOffset: number
  dataLength: number
}

export const frameBytes = (header: WavHeader) => (header.channels * header.bitsPerSample) / 8

/**
 * Reads a RIFF or RF64 header from the file's first bytes (64 KiB are plenty).
 * `fileLength` bounds the data: recorders that died leave a length of 0 or of all ones.
 * Throws a UserError where the bytes are no PCM or float WAV.
 */
export function readWavHeader(bytes: Uint8Array, fileLength: number): WavHeader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || !['RIFF', 'RF64'].includes(tag(0)) || tag(8) !== 'WAVE') {
    throw new UserError(say('formats.notWav'))
  }
  let format: Omit<WavHeader, 'dataOffset' | 'dataLength'> | undefined
  for (let at = 12; at + 8 <= bytes.length;) {
    const length = view.getUint32(at + 4, true)
    if (tag(at) === 'fmt ' && at + 24 <= bytes.length) format = readFormat(view, at + 8, length)
    if (tag(at) === 'data') {
      if (!format) break
      const left = Math.max(0, fileLength - at - 8)
      const known = length > 0 && length < 0xffffffff
      return { ...format, dataOffset: at + 8, dataLength: known ? Math.min(length, left) : left }
    }
    at += 8 + length + (length % 2)
  }
  throw new UserError(say('formats.wavDamaged'))
}

function readFormat(view: DataView, at: number, length: number) {
  const declared = view.getUint16(at, true)
  const tag = declared === 0xfffe && length >= 26 ? view.getUint16(at + 24, true) : declared
  const channels = view.getUint16(at + 2, true)
  const rate = view.getUint32(at + 4, true)
  const bitsPerSample = view.getUint16(at + 14, true)
  const readable = tag === 1 ? [8, 16, 24, 32].includes(bitsPerSample) : tag === 3 && [32, 64].includes(bitsPerSample)
  if (!readable || channels === 0 || rate === 0) {
    throw new UserError(say('formats.wavCodedOddly'))
  }
  return { channels, rate, bitsPerSample, encoding: tag === 1 ? ('pcm' as const) : ('float' as const) }
}

/** Turns interleaved bytes (whole frames) into one Float32Array a channel, full scale at 1. */
export function decodeSamples(bytes: Uint8Array, header: WavHeader): Float32Array[] {
  const { channels, bitsPerSample, encoding } = header
  const frames = Math.floor(bytes.length / frameBytes(header))
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const out = Array.from({ length: channels }, () => new Float32Array(frames))
  const isAligned = bytes.byteOffset % 2 === 0
  if (encoding === 'pcm' && bitsPerSample === 16 && isAligned) {
    decodeWords(new Int16Array(bytes.buffer, bytes.byteOffset, frames * channels), out)
    return out
  }
  const width = bitsPerSample / 8
  const read = sampleReader(view, encoding, bitsPerSample)
  for (let c = 0; c < channels; c++) {
    const channel = out[c]!
    for (let i = 0, at = c * width; i < frames; i++, at += channels * width) channel[i] = read(at)
  }
  return out
}

/** The usual coding, read without a call for each sample. WAV and all machines this runs on are little-endian. */
function decodeWords(words: Int16Array, out: Float32Array[]): void {
  const channels = out.length
  out.forEach((channel, c) => {
    for (let i = 0, at = c; i < channel.length; i++, at += channels) channel[i] = words[at]! / 32768
  })
}

function sampleReader(view: DataView, encoding: WavHeader['encoding'], bits: number): (at: number) => number {
  if (encoding === 'float') return bits === 32 ? (at) => view.getFloat32(at, true) : (at) => view.getFloat64(at, true)
  if (bits === 8) return (at) => (view.getUint8(at) - 128) / 128
  if (bits === 16) return (at) => view.getInt16(at, true) / 32768
  if (bits === 24) return (at) => ((view.getUint16(at, true) << 8) | (view.getUint8(at + 2) << 24)) / 2147483648
  return (at) => view.getInt32(at, true) / 2147483648
}

const HEADER_BYTES = 44

/** Header of a 24-bit PCM file with `frames` frames. */
export function writeWavHeader(channels: number, rate: Hertz, frames: number): Uint8Array {
  const dataLength = frames * channels * 3
  const bytes = new Uint8Array(HEADER_BYTES)
  const view = new DataView(bytes.buffer)
  const text = (at: number, value: string) => bytes.set(new TextEncoder().encode(value), at)
  text(0, 'RIFF')
  view.setUint32(4, Math.min(0xffffffff, HEADER_BYTES - 8 + dataLength), true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, rate, true)
  view.setUint32(28, rate * channels * 3, true)
  view.setUint16(32, channels * 3, true)
  view.setUint16(34, 24, true)
  text(36, 'data')
  view.setUint32(40, Math.min(0xffffffff, dataLength), true)
  return bytes
}

/** Interleaved 24-bit PCM; what passes full scale is clipped. */
export function encodeSamples(channels: readonly Float32Array[]): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const bytes = new Uint8Array(frames * channels.length * 3)
  let at = 0
  for (let i = 0; i < frames; i++) {
    for (const channel of channels) {
      const value = Math.max(-8388608, Math.min(8388607, Math.round(channel[i]! * 8388608)))
      bytes[at++] = value & 255
      bytes[at++] = (value >> 8) & 255
      bytes[at++] = (value >> 16) & 255
    }
  }
  return bytes
}

/** A whole 24-bit PCM file. */
export function writeWav(channels: readonly Float32Array[], rate: Hertz): Uint8Array {
  const header = writeWavHeader(channels.length, rate, channels[0]?.length ?? 0)
  const body = encodeSamples(channels)
  const file = new Uint8Array(header.length + body.length)
  file.set(header)
  file.set(body, header.length)
  return file
}

/** A whole file's samples and rate. */
export function readWav(bytes: Uint8Array): { channels: Float32Array[]; rate: Hertz } {
  const header = readWavHeader(bytes, bytes.length)
  const data = bytes.subarray(header.dataOffset, header.dataOffset + header.dataLength)
  return { channels: decodeSamples(data, header), rate: header.rate }
}
