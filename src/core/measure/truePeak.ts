import { toDecibels, type DecibelsTruePeak, type Factor } from '@/core/units'

const PHASES = 4
/** Input samples each interpolated value is made of. */
export const TAPS = 12
const BLOCK = 64

/** Rows of an interpolator by four: row p gives the signal p/4 sample after the sample `TAPS / 2 - 1` places in. */
export const INTERPOLATOR: readonly Float64Array[] = interpolator()
/** No interpolated value exceeds the largest sample around it by more than this factor (the rows' largest L1 norm). */
export const OVERSHOOT_BOUND: Factor = Math.max(
  ...INTERPOLATOR.map((row) => row.reduce((sum, tap) => sum + Math.abs(tap), 0)),
)

export interface TruePeakMeter {
  push(channels: readonly Float32Array[]): void
  /** Largest magnitude so far, or null in digital silence. */
  peak(): DecibelsTruePeak | null
}

/**
 * Streaming true peak by fourfold oversampling (ITU-R BS.1770-5, Annex 2).
 *
 * Most blocks can't hold the maximum: sample peaks come first, and a block is interpolated only where its
 * peak times the interpolator's bound exceeds the maximum so far, the loudest blocks of each push before others.
 */
export function createTruePeakMeter(channelCount: number): TruePeakMeter {
  const kept = Array.from({ length: channelCount }, () => new Float32Array(TAPS))
  let maximum = 0
  return {
    push(channels) {
      channels.forEach((channel, c) => {
        const padded = new Float32Array(TAPS + channel.length)
        padded.set(kept[c]!)
        padded.set(channel, TAPS)
        maximum = raisedPeak(padded, maximum)
        kept[c] = padded.slice(-TAPS)
      })
    },
    peak() {
      // The last samples still wait for their right-hand neighbours: silence follows them.
      const rest = kept.map((samples) => {
        const padded = new Float32Array(TAPS * 2)
        padded.set(samples)
        return raisedPeak(padded, maximum)
      })
      const peak = Math.max(maximum, ...rest)
      return peak > 0 ? toDecibels(peak) : null
    },
  }
}

/** The larger of `maximum` and the true peak within `x`, whose first TAPS samples are history. */
function raisedPeak(x: Float32Array, maximum: Factor): Factor {
  const blocks = Math.ceil((x.length - TAPS) / BLOCK)
  const peaks = new Float32Array(blocks)
  for (let b = 0; b < blocks; b++) {
    const end = Math.min(x.length, TAPS + (b + 1) * BLOCK)
    let peak = 0
    for (let i = b * BLOCK; i < end; i++) {
      const magnitude = Math.abs(x[i]!)
      if (magnitude > peak) peak = magnitude
    }
    peaks[b] = peak
  }
  const candidates: number[] = []
  for (let b = 0; b < blocks; b++) {
    if (peaks[b]! * OVERSHOOT_BOUND > maximum) candidates.push(b)
  }
  candidates.sort((a, b) => peaks[b]! - peaks[a]!)
  for (const b of candidates) {
    if (peaks[b]! * OVERSHOOT_BOUND <= maximum) break
    const end = Math.min(x.length - TAPS, (b + 1) * BLOCK)
    maximum = Math.max(maximum, interpolatedPeak(x, b * BLOCK, end))
  }
  return maximum
}

/** Largest magnitude of the four interpolated phases whose taps start at `from`..`to` - 1. */
export function interpolatedPeak(x: Float32Array, from: number, to: number): Factor {
  let peak = 0
  const [, row1, row2, row3] = INTERPOLATOR as [Float64Array, Float64Array, Float64Array, Float64Array]
  for (let i = from; i < to; i++) {
    let y1 = 0
    let y2 = 0
    let y3 = 0
    for (let k = 0; k < TAPS; k++) {
      const sample = x[i + k]!
      y1 += row1[k]! * sample
      y2 += row2[k]! * sample
      y3 += row3[k]! * sample
    }
    const y0 = Math.abs(x[i + TAPS / 2 - 1]!)
    y1 = Math.abs(y1)
    y2 = Math.abs(y2)
    y3 = Math.abs(y3)
    if (y0 > peak) peak = y0
    if (y1 > peak) peak = y1
    if (y2 > peak) peak = y2
    if (y3 > peak) peak = y3
  }
  return peak
}

/** Windowed sinc (Kaiser, beta 6), cut into phases; phase 0 is the sample itself. */
function interpolator(): Float64Array[] {
  const half = (PHASES * TAPS) / 2
  const kernel = (t: number) => {
    const x = Math.PI * (t / PHASES)
    const sinc = t === 0 ? 1 : Math.sin(x) / x
    const window = Math.abs(t) >= half ? 0 : bessel0(6 * Math.sqrt(1 - (t / half) ** 2)) / bessel0(6)
    return sinc * window
  }
  return Array.from({ length: PHASES }, (_, phase) => {
    const row = Float64Array.from({ length: TAPS }, (_, k) => kernel((TAPS / 2 - 1 - k) * PHASES + phase))
    const gain = row.reduce((sum, tap) => sum + tap, 0)
    return row.map((tap) => tap / gain)
  })
}

/** Modified Bessel function of the first kind, order 0, by its power series. */
function bessel0(x: number): number {
  let term = 1
  let sum = 1
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2
    sum += term
  }
  return sum
}
