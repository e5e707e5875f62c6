import { open, stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { decodeSamples, frameBytes, readWavHeader, type WavHeader } from '@/core/formats/wav'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import { createTruePeakMeter } from '@/core/measure/truePeak'
import { UserError } from '@/core/userError'
import type { DecibelsTruePeak, Hertz } from '@/core/units'
import { say } from '@/messages/say'
import { decodeSound, deinterleave, probeFile } from './ffmpeg'
import { identifyFile } from './import/identify'

export interface Measured {
  track: LoudnessTrack
  truePeak: DecibelsTruePeak | null
}

type Take = (channels: Float32Array[]) => void

/** Measures a sound file at its own rate and with its own channels (up to 5.1), in bounded memory. */
export async function measureFile(path: string): Promise<Measured> {
  const name = basename(path)
  const { demuxer } = await identifyFile(path, name)
  if (!demuxer) throw new UserError(say('imports.noSoundToTake', { name }))
  const wav = demuxer === 'wav' ? await wavHeader(path) : null
  if (wav) return measureWith(wav.rate, wav.channels, (take) => readWavFile(path, wav, take))
  const { sound } = await probeFile(path, demuxer, name)
  if (!sound) throw new UserError(say('imports.noSoundTrack', { name }))
  const { rate, channels } = sound
  return measureDecoded(rate, channels, (take) => decodeSound(path, demuxer, name, sound, take))
}

async function measureWith(rate: Hertz, channels: number, read: (take: Take) => Promise<void>): Promise<Measured> {
  const energy = createEnergyMeter(rate, channels)
  const peak = createTruePeakMeter(channels)
  await read((block) => {
    energy.push(block)
    peak.push(block)
  })
  return { track: energy.track(), truePeak: peak.peak() }
}

/** Measures interleaved samples as they come. */
export function measureDecoded(
  rate: Hertz,
  channels: number,
  decode: (take: (samples: Float32Array) => void) => Promise<void>,
): Promise<Measured> {
  let room: Float32Array[] = []
  return measureWith(rate, channels, (take) =>
    decode((samples) => {
      const frames = samples.length / channels
      // Used again from chunk to chunk: to clear away what is only read once costs more than to measure it.
      if ((room[0]?.length ?? 0) < frames) room = Array.from({ length: channels }, () => new Float32Array(frames))
      const parts = room.map((channel) => channel.subarray(0, frames))
      take(deinterleave(samples, channels, parts))
    }),
  )
}

/** Null for codings that are left to ffmpeg. */
async function wavHeader(path: string): Promise<WavHeader | null> {
  const file = await open(path)
  try {
    const bytes = new Uint8Array(65536)
    const { bytesRead } = await file.read(bytes, 0, bytes.length, 0)
    return readWavHeader(bytes.subarray(0, bytesRead), (await stat(path)).size)
  } catch (error) {
    if (error instanceof UserError) return null
    throw error
  } finally {
    await file.close()
  }
}

const BLOCK_FRAMES = 65536

async function readWavFile(path: string, header: WavHeader, take: Take): Promise<void> {
  const file = await open(path)
  try {
    const bytes = new Uint8Array(BLOCK_FRAMES * frameBytes(header))
    for (let at = 0; at < header.dataLength;) {
      const wanted = Math.min(bytes.length, header.dataLength - at)
      const { bytesRead } = await file.read(bytes, 0, wanted, header.dataOffset + at)
      if (bytesRead === 0) break
      take(decodeSamples(bytes.subarray(0, bytesRead), header))
      at += bytesRead
    }
  } finally {
    await file.close()
  }
}
