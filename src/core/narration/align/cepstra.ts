import FFT from 'fft.js'
import type { Hertz, Seconds } from '@/core/units'

/**
 * Mel cepstra: what a short stretch of speech sounds like, whoever says it (Davis and Mermelstein, 1980).
 * 25 ms windows every 10 ms, 26 bands from 100 to 6800 Hz; c1..c12 liftered (length 22) and the log energy.
 */
export const CEPSTRA = 13
export const FRAMES_PER_SECOND = 100
const WINDOW: Seconds = 0.025

const BANDS = 26
const LOWEST: Hertz = 100
const HIGHEST: Hertz = 6800
const LIFTER = 22
const ENERGY_WEIGHT = 0.7
/** Keeps the logarithm finite in digital silence: about -100 dB. */
const FLOOR = 1e-10

export interface CepstrumMeter {
  /** Mono samples, in pieces of any length. */
  push(samples: Float32Array): void
  /** All frames so far, `CEPSTRA` values each; the last one is the log energy. */
  frames(): Float32Array
}

export function createCepstrumMeter(rate: Hertz): CepstrumMeter {
  const hop = rate / FRAMES_PER_SECOND
  const window = hann(Math.round(rate * WINDOW))
  const size = 2 ** Math.ceil(Math.log2(window.length))
  const fft = new FFT(size)
  const bands = melBands(rate, size)
  const cosines = cosineTable()
  const input = new Array<number>(size).fill(0)
  const spectrum = fft.createComplexArray()
  const logs = new Float64Array(BANDS)
  let held = new Float32Array(0)
  /** Place of `held` in the whole, and how many frames are made. */
  let base = 0
  let made = 0
  let out = new Float32Array(CEPSTRA * 1024)

  function measure(samples: Float32Array, at: number): void {
    if ((made + 1) * CEPSTRA > out.length) out = grown(out)
    let energy = FLOOR
    for (let i = 0; i < window.length; i++) {
      const value = samples[at + i]!
      energy += value * value
      input[i] = value * window[i]!
    }
    fft.realTransform(spectrum, input)
    for (let b = 0; b < BANDS; b++) logs[b] = Math.log(bandEnergy(spectrum, bands[b]!) + FLOOR)
    const frame = made++ * CEPSTRA
    for (let c = 0; c < CEPSTRA - 1; c++) {
      let sum = 0
      for (let b = 0; b < BANDS; b++) sum += logs[b]! * cosines[c * BANDS + b]!
      out[frame + c] = sum
    }
    out[frame + CEPSTRA - 1] = Math.log(energy / window.length) * ENERGY_WEIGHT
  }

  return {
    push(samples) {
      const all = new Float32Array(held.length + samples.length)
      all.set(held)
      all.set(samples, held.length)
      let at = Math.round(made * hop) - base
      while (at + window.length <= all.length) {
        measure(all, at)
        at = Math.round(made * hop) - base
      }
      const from = Math.min(all.length, at)
      held = all.slice(from)
      base += from
    },
    frames: () => out.slice(0, made * CEPSTRA),
  }
}

/** Middle of a frame in the sound's time. */
export const timeOfFrame = (frame: number): Seconds => frame / FRAMES_PER_SECOND + WINDOW / 2
export const frameAt = (time: Seconds): number => Math.round((time - WINDOW / 2) * FRAMES_PER_SECOND)

/** The frames of a whole sound; it is taken as silent before its beginning and after its end. */
export function cepstraOf(samples: Float32Array, rate: Hertz): Float32Array {
  const meter = createCepstrumMeter(rate)
  meter.push(samples)
  meter.push(new Float32Array(Math.round(rate * WINDOW)))
  return meter.frames()
}

function grown(array: Float32Array): Float32Array<ArrayBuffer> {
  const larger = new Float32Array(array.length * 2)
  larger.set(array)
  return larger
}

const hann = (length: number) =>
  Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length))

interface Band {
  first: number
  weights: Float64Array
}

/** Triangles, equally wide on the mel scale. */
function melBands(rate: Hertz, size: number): Band[] {
  const mel = (hertz: Hertz) => 1127 * Math.log(1 + hertz / 700)
  const hertz = (value: number) => 700 * (Math.exp(value / 1127) - 1)
  const [low, high] = [mel(LOWEST), mel(Math.min(HIGHEST, rate / 2))]
  const edges = Array.from(
    { length: BANDS + 2 },
    (_, i) => (hertz(low + ((high - low) * i) / (BANDS + 1)) * size) / rate,
  )
  return Array.from({ length: BANDS }, (_, b) => {
    const [from, top, to] = [edges[b]!, edges[b + 1]!, edges[b + 2]!]
    const first = Math.ceil(from)
    const weights = Float64Array.from({ length: Math.max(1, Math.floor(to) - first + 1) }, (_, i) => {
      const bin = first + i
      return Math.max(0, bin <= top ? (bin - from) / (top - from) : (to - bin) / (to - top))
    })
    return { first, weights }
  })
}

function bandEnergy(spectrum: number[], { first, weights }: Band): number {
  let sum = 0
  for (let i = 0; i < weights.length; i++) {
    const real = spectrum[2 * (first + i)]!
    const imaginary = spectrum[2 * (first + i) + 1]!
    sum += (real * real + imaginary * imaginary) * weights[i]!
  }
  return sum
}

/** Rows of the cosine transform for c1..c12, each with its lifter. */
function cosineTable(): Float64Array {
  const table = new Float64Array((CEPSTRA - 1) * BANDS)
  for (let c = 1; c < CEPSTRA; c++) {
    const lift = 1 + (LIFTER / 2) * Math.sin((Math.PI * c) / LIFTER)
    for (let b = 0; b < BANDS; b++)
      table[(c - 1) * BANDS + b] = lift * Math.sqrt(2 / BANDS) * Math.cos((Math.PI * c * (b + 0.5)) / BANDS)
  }
  return table
}
