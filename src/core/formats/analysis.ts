import type { Analysis } from '@/core/measure/analysis'

const MAGIC = 0x324e4159 // 'YAN2'
const HEADER = 28

/** One binary block: magic, samples, channels and the four track lengths as 32-bit words, then the tracks. */
export function writeAnalysis({ samples, channels, energy, wave, bands, clips }: Analysis): Uint8Array {
  const bytes = new Uint8Array(HEADER + energy.byteLength + clips.byteLength + wave.length + bands.length)
  new Uint32Array(bytes.buffer, 0, 7).set([
    MAGIC,
    samples,
    channels,
    energy.length,
    clips.length,
    wave.length,
    bands.length,
  ])
  let at = HEADER
  for (const { buffer, byteOffset, byteLength } of [energy, clips, wave, bands]) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at)
    at += byteLength
  }
  return bytes
}

/** Analyses of the first edition know no clips. */
const OLD_MAGIC = 0x314e4159 // 'YAN1'

export function readAnalysis(bytes: Uint8Array): Analysis {
  const copy = bytes.slice()
  const words = new Uint32Array(copy.buffer, 0, 7)
  const isOld = words[0] === OLD_MAGIC
  if (words[0] !== MAGIC && !isOld) throw new Error('not an analysis')
  const [, samples, channels, energies] = words
  const [clips, waves, bands] = isOld ? [0, words[4], words[5]] : [words[4], words[5], words[6]]
  let at = isOld ? HEADER - 4 : HEADER
  const take = (length: number) => copy.buffer.slice(at, (at += length))
  return {
    samples: samples!,
    channels: channels!,
    energy: new Float32Array(take(energies! * 4)),
    clips: new Uint32Array(take(clips! * 4)),
    wave: new Int8Array(take(waves!)),
    bands: new Uint8Array(take(bands!)),
  }
}
