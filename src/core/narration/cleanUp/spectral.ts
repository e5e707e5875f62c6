import FFT from 'fft.js'
import { toFactor, type Decibels, type Factor } from '@/core/units'

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
  const lower = lowering(noise, toFactor(-most))
  const [frames, spectra] = [fft.createComplexArray(), fft.createComplexArray()]
  // Two frames at a time, the later one as the imaginary part of the same transform: half as many are needed.
  const padded = new Float32Array(samples.length + 2 * SIZE + HOP)
  padded.set(samples, SIZE)
  const out = new Float32Array(padded.length)
  for (let at = 0; at + SIZE + HOP <= padded.length; at += 2 * HOP) {
    for (let i = 0; i < SIZE; i++) {
      frames[2 * i] = padded[at + i]! * WINDOW[i]!
      frames[2 * i + 1] = padded[at + HOP + i]! * WINDOW[i]!
    }
    fft.transform(spectra, frames)
    lower(spectra)
    fft.inverseTransform(frames, spectra)
    // Four windows overlap; their squares add up to two.
    for (let i = 0; i < SIZE; i++) {
      out[at + i]! += (frames[2 * i]! * WINDOW[i]!) / 2
      out[at + HOP + i]! += (frames[2 * i + 1]! * WINDOW[i]!) / 2
    }
  }
  return out.slice(SIZE, SIZE + samples.length)
}

/** Lowers the bins of two frames that follow each other, in the spectrum of the first plus i times the second. */
function lowering(noise: NoiseSpectrum, least: Factor): (spectra: number[]) => void {
  const before = new Float64Array(BINS)
  const gainOf = (power: number, b: number) => {
    const ratio = power / (noise[b]! + 1e-20)
    const estimate = MEMORY * before[b]! + (1 - MEMORY) * Math.max(0, ratio - 1)
    const gain = Math.max(least, estimate / (1 + estimate))
    before[b] = gain * gain * ratio
    return gain
  }
  return (spectra) => {
    for (let b = 0; b < BINS; b++) {
      // A bin and its mirror image: what they have in common is the first frame's, what parts them the second's.
      const here = 2 * b
      const there = 2 * ((SIZE - b) % SIZE)
      const firstRe = (spectra[here]! + spectra[there]!) / 2
      const firstIm = (spectra[here + 1]! - spectra[there + 1]!) / 2
      const secondRe = (spectra[here + 1]! + spectra[there + 1]!) / 2
      const secondIm = (spectra[there]! - spectra[here]!) / 2
      const first = gainOf(firstRe ** 2 + firstIm ** 2, b)
      const second = gainOf(secondRe ** 2 + secondIm ** 2, b)
      spectra[here] = first * firstRe - second * secondIm
      spectra[here + 1] = first * firstIm + second * secondRe
      spectra[there] = first * firstRe + second * secondIm
      spectra[there + 1] = second * secondRe - first * firstIm
    }
  }
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
