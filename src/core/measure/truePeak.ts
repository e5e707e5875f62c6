import { toDecibels, type DecibelsTruePeak, type Factor } from '@/core/units'

const PHASES = 4
/** Input samples each interpolated value is made of. */
export const TAPS = 12
const BLOCK = 64

/** Rows of an interpolator by four: row p gives the signal p/4 sample after the sample `TAPS / 2 - 1` places in. */
export const INTERPOLATOR: readonly Float64Array[] = interpolator()
type Twelve = [number, number, number, number, number, number, number, number, number, number, number, number]
const COEFFICIENTS = INTERPOLATOR.map((row) => [...row]) as [Twelve, Twelve, Twelve, Twelve]
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
 * peak times the interpolator's bound exceeds the maximum so far, the loudest block of each push before the others.
 */
export function createTruePeakMeter(channelCount: number): TruePeakMeter {
  const kept = Array.from({ length: channelCount }, () => new Float32Array(TAPS))
  // Used again from block to block: large arrays cost more than what is done with them.
  let room = new Float32Array(TAPS)
  let maximum = 0
  return {
    push(channels) {
      channels.forEach((channel, c) => {
        const length = TAPS + channel.length
        if (room.length < length) room = new Float32Array(length)
        const padded = room.subarray(0, length)
        padded.set(kept[c]!)
        padded.set(channel, TAPS)
        maximum = raisedPeak(padded, maximum)
        kept[c]!.set(padded.subarray(length - TAPS))
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
    let high = 0
    let low = 0
    for (let i = b * BLOCK; i < end; i++) {
      const value = x[i]!
      if (value > high) high = value
      else if (value < low) low = value
    }
    peaks[b] = Math.max(high, -low)
  }
  const look = (b: number) => {
    if (peaks[b]! * OVERSHOOT_BOUND <= maximum) return
    const end = Math.min(x.length - TAPS, (b + 1) * BLOCK)
    maximum = Math.max(maximum, interpolatedPeak(x, b * BLOCK, end))
  }
  if (blocks > 0) look(loudestOf(peaks))
  for (let b = 0; b < blocks; b++) look(b)
  return maximum
}

function loudestOf(peaks: Float32Array): number {
  let loudest = 0
  for (let b = 1; b < peaks.length; b++) if (peaks[b]! > peaks[loudest]!) loudest = b
  return loudest
}

/** Largest magnitude of the four interpolated phases whose taps start at `from`..`to` - 1. */
export function interpolatedPeak(x: Float32Array, from: number, to: number): Factor {
  const [, [a0, a1, a2, a3, a4, a5, a6, a7, a8, a9, aA, aB], [b0, b1, b2, b3, b4, b5]] = COEFFICIENTS
  let peak = 0
  // Written out, because this loop is most of the work: the samples slide through local names. The third phase is the
  // first one backwards, and the second is symmetric.
  let x0 = x[from]!
  let x1 = x[from + 1]!
  let x2 = x[from + 2]!
  let x3 = x[from + 3]!
  let x4 = x[from + 4]!
  let x5 = x[from + 5]!
  let x6 = x[from + 6]!
  let x7 = x[from + 7]!
  let x8 = x[from + 8]!
  let x9 = x[from + 9]!
  let xA = x[from + 10]!
  for (let i = from; i < to; i++) {
    const xB = x[i + 11]!
    const y1 =
      a0 * x0 +
      a1 * x1 +
      a2 * x2 +
      a3 * x3 +
      a4 * x4 +
      a5 * x5 +
      a6 * x6 +
      a7 * x7 +
      a8 * x8 +
      a9 * x9 +
      aA * xA +
      aB * xB
    const y3 =
      aB * x0 +
      aA * x1 +
      a9 * x2 +
      a8 * x3 +
      a7 * x4 +
      a6 * x5 +
      a5 * x6 +
      a4 * x7 +
      a3 * x8 +
      a2 * x9 +
      a1 * xA +
      a0 * xB
    const y2 = b0 * (x0 + xB) + b1 * (x1 + xA) + b2 * (x2 + x9) + b3 * (x3 + x8) + b4 * (x4 + x7) + b5 * (x5 + x6)
    if (x5 > peak) peak = x5
    else if (-x5 > peak) peak = -x5
    if (y1 > peak) peak = y1
    else if (-y1 > peak) peak = -y1
    if (y2 > peak) peak = y2
    else if (-y2 > peak) peak = -y2
    if (y3 > peak) peak = y3
    else if (-y3 > peak) peak = -y3
    x0 = x1
    x1 = x2
    x2 = x3
    x3 = x4
    x4 = x5
    x5 = x6
    x6 = x7
    x7 = x8
    x8 = x9
    x9 = xA
    xA = xB
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
