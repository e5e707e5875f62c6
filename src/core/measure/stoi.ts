import FFT from 'fft.js'
import { toFactor, type Hertz } from '@/core/units'

/** Signals are compared at this rate. */
export const STOI_RATE: Hertz = 10_000
const FRAME = 256
const HOP = 128
const SIZE = 512
const BANDS = 15
const LOWEST: Hertz = 150
/** Frames that are compared together: 384 ms. */
const SEGMENT = 30
/** How much worse than this a band can't count. */
const WORST = -15 // dB of signal to distortion
/** Frames so far below the loudest are silence and are left out of both. */
const RANGE = 40 // dB

/**
 * Short-time objective intelligibility of `processed` against the same words in `clean`, 0..1: Taal, Hendriks, Heusdens
 * and Jensen, "An algorithm for intelligibility prediction of time-frequency weighted noisy speech", IEEE TASLP 2011.
 * Both mono at `STOI_RATE`, equally long. Null where there are less than 384 ms of speech.
 */
export function intelligibility(clean: Float32Array, processed: Float32Array): number | null {
  const frames = audibleFrames(clean)
  if (frames.length < SEGMENT) return null
  const x = bandEnvelopes(clean, frames)
  const y = bandEnvelopes(processed, frames)
  let sum = 0
  let count = 0
  for (let last = SEGMENT; last <= frames.length; last++) {
    for (let b = 0; b < BANDS; b++) {
      sum += likeness(x[b]!.subarray(last - SEGMENT, last), y[b]!.subarray(last - SEGMENT, last))
      count++
    }
  }
  return sum / count
}

function audibleFrames(samples: Float32Array): number[] {
  const energies: number[] = []
  for (let at = 0; at + FRAME <= samples.length; at += HOP) {
    let energy = 0
    for (let i = 0; i < FRAME; i++) energy += (samples[at + i]! * WINDOW[i]!) ** 2
    energies.push(energy)
  }
  const least = energies.reduce((max, value) => Math.max(max, value), 0) / 10 ** (RANGE / 10)
  return energies.flatMap((energy, i) => (energy > least ? [i * HOP] : []))
}

const WINDOW = Float64Array.from(
  { length: FRAME },
  (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 1)) / (FRAME + 1)),
)

/** Amplitudes in third-octave bands from 150 Hz, frame by frame. */
function bandEnvelopes(samples: Float32Array, frames: readonly number[]): Float64Array[] {
  const fft = new FFT(SIZE)
  const input = new Array<number>(SIZE).fill(0)
  const spectrum = fft.createComplexArray()
  const edges = Array.from({ length: BANDS }, (_, b) => {
    const centre = LOWEST * 2 ** (b / 3)
    return [centre * 2 ** (-1 / 6), centre * 2 ** (1 / 6)].map((edge) => Math.round((edge * SIZE) / STOI_RATE))
  })
  const bands = Array.from({ length: BANDS }, () => new Float64Array(frames.length))
  frames.forEach((at, f) => {
    for (let i = 0; i < FRAME; i++) input[i] = samples[at + i]! * WINDOW[i]!
    fft.realTransform(spectrum, input)
    edges.forEach(([from, to], b) => {
      let power = 0
      for (let bin = from!; bin < to!; bin++) power += spectrum[2 * bin]! ** 2 + spectrum[2 * bin + 1]! ** 2
      bands[b]![f] = Math.sqrt(power)
    })
  })
  return bands
}

/** Correlation of two envelopes, the second brought to the first's energy and clipped to what can still matter. */
function likeness(x: Float64Array, y: Float64Array): number {
  const scale = Math.sqrt(energyOf(x) / Math.max(1e-20, energyOf(y)))
  const most = 1 + toFactor(-WORST)
  const limited = y.map((value, i) => Math.min(value * scale, x[i]! * most))
  const [meanX, meanY] = [meanOf(x), meanOf(limited)]
  let [product, squareX, squareY] = [0, 0, 0]
  for (let i = 0; i < x.length; i++) {
    const [a, b] = [x[i]! - meanX, limited[i]! - meanY]
    product += a * b
    squareX += a * a
    squareY += b * b
  }
  return product / Math.sqrt(Math.max(1e-20, squareX * squareY))
}

const energyOf = (values: Float64Array) => values.reduce((sum, value) => sum + value * value, 0)
const meanOf = (values: Float64Array) => values.reduce((sum, value) => sum + value, 0) / values.length
