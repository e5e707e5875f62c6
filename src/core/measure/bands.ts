import FFT from 'fft.js'
import { HOUSE_RATE, type Hertz } from '@/core/units'

/** Length of one spectrum hop in seconds. */
export const BAND_HOP = 0.1
/** Centres of the third-octave bands (IEC 61260-1, base 10) from 63 Hz to 16 kHz. */
export const BAND_CENTRES: readonly Hertz[] = Array.from({ length: 25 }, (_, i) => 1000 * 10 ** ((i - 12) / 10))

const SIZE = 4096
const HOP_SAMPLES = HOUSE_RATE * BAND_HOP
/** Levels are kept as bytes: half a dB a step from -110 dBFS up. */
const FLOOR = -110

export const bandByteToDecibels = (byte: number) => FLOOR + byte / 2

/** Band levels of a house-rate signal of one or two channels, one row of bytes (a byte a band) per 100 ms. */
export interface BandMeter {
  push(channels: readonly Float32Array[]): void
  rows(): Uint8Array
}

export function createBandMeter(): BandMeter {
  const fft = new FFT(SIZE)
  const window = Float64Array.from({ length: SIZE }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE))
  const edges = bandEdges()
  const pending = new Float64Array(HOP_SAMPLES)
  const windowed = new Array<number>(SIZE).fill(0)
  const spectrum = fft.createComplexArray()
  const rows: number[] = []
  let filled = 0

  function finishHop() {
    for (let i = 0; i < SIZE; i++) windowed[i] = pending[i]! * window[i]!
    fft.realTransform(spectrum, windowed)
    for (let b = 0; b < BAND_CENTRES.length; b++) {
      let power = 0
      for (let bin = edges[b]!; bin < edges[b + 1]!; bin++)
        power += spectrum[2 * bin]! ** 2 + spectrum[2 * bin + 1]! ** 2
      // A full-scale sine gives 0 dB: its power in a Hann-windowed transform is 3/32 of the size squared.
      const level = 10 * Math.log10(power / ((3 / 32) * SIZE * SIZE) + 1e-12)
      rows.push(Math.max(0, Math.min(255, Math.round((level - FLOOR) * 2))))
    }
    filled = 0
  }

  return {
    push(channels) {
      const length = channels[0]?.length ?? 0
      const left = channels[0]!
      const right = channels[1] ?? left
      for (let at = 0; at < length;) {
        const count = Math.min(length - at, HOP_SAMPLES - filled)
        for (let i = 0; i < count; i++) pending[filled + i] = (left[at + i]! + right[at + i]!) / 2
        filled += count
        at += count
        if (filled === HOP_SAMPLES) finishHop()
      }
    },
    rows: () => Uint8Array.from(rows),
  }
}

/** First bin of each band, and one past the last; every band has at least one bin. */
function bandEdges(): number[] {
  const edges = BAND_CENTRES.map((centre) => Math.round((centre * 10 ** -0.05 * SIZE) / HOUSE_RATE))
  edges.push(Math.round((BAND_CENTRES.at(-1)! * 10 ** 0.05 * SIZE) / HOUSE_RATE))
  for (let i = 1; i < edges.length; i++) edges[i] = Math.max(edges[i]!, edges[i - 1]! + 1)
  return edges
}
