import FFT from 'fft.js'
import { toFactor, type Decibels } from '@/core/units'

/** Short-time spectra: 1024 samples every 256, square-root Hann windows before and after. */
const SIZE = 1024
const HOP = 256
const BINS = SIZE / 2 + 1
/** Weight of the frame before in the estimate of a bin's speech (Ephraim and Malah, 1984): no musical noise. */
const MEMORY = 0.96

/** Mean power of a noise, bin by bin. */
export type NoiseSpectrum = Float32Array

export function noiseSpectrum(stretches: readonly Float32Array[]): NoiseSpectrum | null {
  const sum = new Float64Array(BINS)
  let frames = 0
  const transform = createTransform()
  for (const samples of stretches) {
    for (let at = 0; at + SIZE <= samples.length; at += HOP) {
      const spectrum = transform(samples, at)
      for (let b = 0; b < BINS; b++) sum[b]! += powerOf(spectrum, b)
      frames++
    }
  }
  return frames === 0 ? null : Float32Array.from(sum, (value) => value / frames)
}

/** Lowers each bin as far as the noise fills it, by `most` dB at most. */
export function reduceNoise(samples: Float32Array, noise: NoiseSpectrum, most: Decibels): Float32Array {
  const fft = new FFT(SIZE)
  const transform = createTransform()
  const least = toFactor(-most)
  const out = new Float32Array(samples.length + 2 * SIZE)
  const padded = new Float32Array(samples.length + 2 * SIZE)
  padded.set(samples, SIZE)
  const before = new Float64Array(BINS)
  const back = fft.createComplexArray()
  for (let at = 0; at + SIZE <= padded.length; at += HOP) {
    const spectrum = transform(padded, at)
    for (let b = 0; b < BINS; b++) {
      const ratio = powerOf(spectrum, b) / (noise[b]! + 1e-20)
      const estimate = MEMORY * before[b]! + (1 - MEMORY) * Math.max(0, ratio - 1)
      const gain = Math.max(least, estimate / (1 + estimate))
      before[b] = gain * gain * ratio
      spectrum[2 * b]! *= gain
      spectrum[2 * b + 1]! *= gain
    }
    fft.completeSpectrum(spectrum)
    fft.inverseTransform(back, spectrum)
    // Four windows overlap; their squares add up to two.
    for (let i = 0; i < SIZE; i++) out[at + i]! += (back[2 * i]! * WINDOW[i]!) / 2
  }
  return out.slice(SIZE, SIZE + samples.length)
}

const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => Math.sin((Math.PI * (i + 0.5)) / SIZE))

/** The lower half of a windowed spectrum; the array is used again at the next call. */
function createTransform(): (samples: Float32Array, at: number) => number[] {
  const fft = new FFT(SIZE)
  const input = new Array<number>(SIZE).fill(0)
  const spectrum = fft.createComplexArray()
  return (samples, at) => {
    for (let i = 0; i < SIZE; i++) input[i] = samples[at + i]! * WINDOW[i]!
    fft.realTransform(spectrum, input)
    return spectrum
  }
}

const powerOf = (spectrum: number[], bin: number) => spectrum[2 * bin]! ** 2 + spectrum[2 * bin + 1]! ** 2
