import FFT from 'fft.js'
import type { Hertz, Seconds } from '@/core/units'

/**
 * Spectra as an ear hears them: windows of 23 ms every 10 ms, energies in 26 bands from 100 to 6800 Hz that are equally
 * wide on the mel scale, as natural logarithms (Davis and Mermelstein, 1980).
 */
export const BANDS = 26
export const FRAMES_PER_SECOND = 100
/** 512 samples at 22,050 Hz: one more would double the transform. */
const WINDOW: Seconds = 512 / 22050
const LOWEST: Hertz = 100
const HIGHEST: Hertz = 6800
/** Keeps the logarithm finite in digital silence: about -100 dB. */
const FLOOR = 1e-8

export interface MelMeter {
  /** Mono samples, in pieces of any length. */
  push(samples: Float32Array): void
  /** All frames so far, `BANDS` values each. */
  frames(): Float32Array
}

/**
 * `warp` moves the bands as the length of a vocal tract moves the formants (Lee and Rose, 1998): 1.1 looks 10 % higher.
 */
export function createMelMeter(rate: Hertz, warp = 1): MelMeter {
  const hop = rate / FRAMES_PER_SECOND
  const window = hann(Math.round(rate * WINDOW))
  const size = 2 ** Math.ceil(Math.log2(window.length))
  const fft = new FFT(size)
  const bands = melBands(rate, size, warp)
  const input = new Array<number>(size).fill(0)
  const spectrum = fft.createComplexArray()
  let held = new Float32Array(0)
  /** Place of `held` in the whole, and how many frames are made. */
  let base = 0
  let made = 0
  let out = new Float32Array(BANDS * 1024)

  function measure(samples: Float32Array, at: number): void {
    if ((made + 1) * BANDS > out.length) out = grown(out)
    for (let i = 0; i < window.length; i++) input[i] = samples[at + i]! * window[i]!
    fft.realTransform(spectrum, input)
    const frame = made++ * BANDS
    for (let b = 0; b < BANDS; b++) out[frame + b] = Math.log(bandEnergy(spectrum, bands[b]!) + FLOOR)
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
    frames: () => out.slice(0, made * BANDS),
  }
}

/** Middle of a frame in the sound's time. */
export const timeOfFrame = (frame: number): Seconds => frame / FRAMES_PER_SECOND + WINDOW / 2
export const frameAt = (time: Seconds): number => Math.round((time - WINDOW / 2) * FRAMES_PER_SECOND)

/** The frames of a whole sound; it is taken as silent after its end. */
export function melOf(samples: Float32Array, rate: Hertz, warp = 1): Float32Array {
  const meter = createMelMeter(rate, warp)
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
function melBands(rate: Hertz, size: number, warp: number): Band[] {
  const mel = (hertz: Hertz) => 1127 * Math.log(1 + hertz / 700)
  const hertz = (value: number) => 700 * (Math.exp(value / 1127) - 1)
  const [low, high] = [mel(LOWEST), mel(HIGHEST)]
  const edges = Array.from({ length: BANDS + 2 }, (_, i) => {
    const edge = hertz(low + ((high - low) * i) / (BANDS + 1))
    return (Math.min(warped(edge, warp), rate / 2 - 2 * (rate / size)) * size) / rate
  })
  return Array.from({ length: BANDS }, (_, b) => {
    const [from, top, to] = [edges[b]!, edges[b + 1]!, edges[b + 2]!]
    const first = Math.ceil(from)
    const weights = Float64Array.from({ length: Math.max(1, Math.floor(to) - first + 1) }, (_, i) => {
      const bin = first + i
      return Math.max(0, bin <= top ? (bin - from) / (top - from || 1) : (to - bin) / (to - top || 1))
    })
    return { first, weights }
  })
}

/** Moved in proportion up to 4.8 kHz, then straight on to the same end, so that no band falls out. */
function warped(hertz: Hertz, warp: number): Hertz {
  const knee = 4800 / Math.max(1, warp)
  if (hertz <= knee) return hertz * warp
  return knee * warp + ((hertz - knee) * (HIGHEST - knee * warp)) / (HIGHEST - knee)
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
