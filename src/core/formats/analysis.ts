import type { Analysis } from '@/core/measure/analysis'

const MAGIC = 0x314e4159 // 'YAN1'
const HEADER = 24

/** One binary block: magic, samples, channels and the three track lengths as 32-bit words, then the tracks. */
export function writeAnalysis({ samples, channels, energy, wave, bands }: Analysis): Uint8Array {
  const bytes = new Uint8Array(HEADER + energy.byteLength + wave.length + bands.length)
  new Uint32Array(bytes.buffer, 0, 6).set([MAGIC, samples, channels, energy.length, wave.length, bands.length])
  bytes.set(new Uint8Array(energy.buffer, energy.byteOffset, energy.byteLength), HEADER)
  bytes.set(new Uint8Array(wave.buffer, wave.byteOffset, wave.length), HEADER + energy.byteLength)
  bytes.set(bands, HEADER + energy.byteLength + wave.length)
  return bytes
}

export function readAnalysis(bytes: Uint8Array): Analysis {
  const copy = bytes.slice()
  const [magic, samples, channels, energies, waves, bands] = new Uint32Array(copy.buffer, 0, 6)
  if (magic !== MAGIC) throw new Error('not an analysis')
  let at = HEADER
  const take = (length: number) => copy.buffer.slice(at, (at += length))
  return {
    samples: samples!,
    channels: channels!,
    energy: new Float32Array(take(energies! * 4)),
    wave: new Int8Array(take(waves!)),
    bands: new Uint8Array(take(bands!)),
  }
}
