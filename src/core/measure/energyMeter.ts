import type { Hertz } from '@/core/units'
import { channelWeights, kWeighting, type Biquad } from './kWeighting'

/** Length of one loudness hop. Any stretch's loudness follows from these, without going back to the samples. */
export const HOP = 0.01

/** K-weighted mean square, summed over weighted channels, one value per 10 ms hop. */
export type LoudnessTrack = Float32Array

export interface EnergyMeter {
  /** Takes one block: a Float32Array per channel, all of the same length. */
  push(channels: readonly Float32Array[]): void
  /** The track so far. A last hop that is not full is left out. */
  track(): LoudnessTrack
}

/**
 * Streaming K-weighted energies (ITU-R BS.1770-5, Annex 1) in 10 ms hops.
 *
 * Momentary loudness read only every 100 ms comes out up to 0.45 LU low on bursts that start between the
 * reading points, which fails EBU Tech 3341 case 13; hence the fine hops.
 */
export function createEnergyMeter(rate: Hertz, channelCount: number): EnergyMeter {
  const weights = channelWeights(channelCount)
  const filters = kWeighting(rate)
  const states = weights.map(() => new Float64Array(4))
  const pair = new Float64Array(2)
  const hops = createGrowingTrack()
  let sums = 0
  let filled = 0
  let hopIndex = 0
  let hopLength = Math.round(rate * HOP)

  /** Hops of rates such as 22,050 Hz differ by a sample, so that they stay on the 10 ms grid. */
  const nextHopLength = () => Math.round((hopIndex + 1) * rate * HOP) - Math.round(hopIndex * rate * HOP)

  return {
    push(channels) {
      const length = channels[0]?.length ?? 0
      // What is the same on both sides, as a voice in the middle is, is filtered once.
      const isTwin = channelCount === 2 && channels[0] === channels[1] && isEqual(states[0]!, states[1]!)
      let start = 0
      while (start < length) {
        const end = Math.min(length, start + hopLength - filled)
        if (channelCount === 2 && !isTwin) {
          filteredEnergies(channels, start, end, filters, states, pair)
          sums += weights[0]! * pair[0]! + weights[1]! * pair[1]!
        } else
          for (let c = 0; c < channelCount; c++) {
            if (weights[c] === 0) continue
            if (isTwin && c === 1) continue
            sums += (isTwin ? 2 : 1) * weights[c]! * filteredEnergy(channels[c]!, start, end, filters, states[c]!)
          }
        filled += end - start
        start = end
        if (filled < hopLength) continue
        hops.add(sums / hopLength)
        sums = 0
        filled = 0
        hopIndex++
        hopLength = nextHopLength()
      }
      if (isTwin) states[1]!.set(states[0]!)
    },
    track: () => hops.values(),
  }
}

/** Runs both sections in one loop (transposed direct form II) and returns the sum of squares. */
function filteredEnergy(x: Float32Array, from: number, to: number, filters: [Biquad, Biquad], state: Float64Array) {
  const [p, q] = filters
  const { b0, b1, b2, a1, a2 } = p
  const c1 = q.a1
  const c2 = q.a2
  let s0 = state[0]!
  let s1 = state[1]!
  let t0 = state[2]!
  let t1 = state[3]!
  let sum = 0
  for (let i = from; i < to; i++) {
    const input = x[i]!
    const y = b0 * input + s0
    s0 = b1 * input - a1 * y + s1
    s1 = b2 * input - a2 * y
    const z = y + t0
    t0 = -2 * y - c1 * z + t1
    t1 = y - c2 * z
    sum += z * z
  }
  // Denormals would slow the loop down by an order of magnitude in long silences.
  state[0] = withoutDenormal(s0)
  state[1] = withoutDenormal(s1)
  state[2] = withoutDenormal(t0)
  state[3] = withoutDenormal(t1)
  return sum
}

/** The same of two channels at once into `sums`: neither waits for the other's last sample. */
function filteredEnergies(
  [left, right]: readonly Float32Array[],
  from: number,
  to: number,
  filters: [Biquad, Biquad],
  [l, r]: readonly Float64Array[],
  sums: Float64Array,
): void {
  const [{ b0, b1, b2, a1, a2 }, { a1: c1, a2: c2 }] = filters
  let [l0, l1, l2, l3] = [l![0]!, l![1]!, l![2]!, l![3]!]
  let [r0, r1, r2, r3] = [r![0]!, r![1]!, r![2]!, r![3]!]
  let sum = 0
  let other = 0
  for (let i = from; i < to; i++) {
    const x = left![i]!
    const y = b0 * x + l0
    l0 = b1 * x - a1 * y + l1
    l1 = b2 * x - a2 * y
    const z = y + l2
    l2 = -2 * y - c1 * z + l3
    l3 = y - c2 * z
    sum += z * z
    const u = right![i]!
    const v = b0 * u + r0
    r0 = b1 * u - a1 * v + r1
    r1 = b2 * u - a2 * v
    const w = v + r2
    r2 = -2 * v - c1 * w + r3
    r3 = v - c2 * w
    other += w * w
  }
  for (const [k, value] of [l0, l1, l2, l3].entries()) l![k] = withoutDenormal(value)
  for (const [k, value] of [r0, r1, r2, r3].entries()) r![k] = withoutDenormal(value)
  sums[0] = sum
  sums[1] = other
}

const isEqual = (a: Float64Array, b: Float64Array) => a.every((value, i) => value === b[i])

const withoutDenormal = (value: number) => (value < 1e-30 && value > -1e-30 ? 0 : value)

function createGrowingTrack() {
  let buffer = new Float32Array(4096)
  let length = 0
  return {
    add(value: number) {
      if (length === buffer.length) {
        const larger = new Float32Array(buffer.length * 2)
        larger.set(buffer)
        buffer = larger
      }
      buffer[length++] = value
    },
    values: () => buffer.slice(0, length),
  }
}

/** Mean of the hops from `from` to `to` (exclusive), as far as the track goes; 0 where it does not. */
export function meanEnergy(track: LoudnessTrack, from: number, to: number): number {
  const end = Math.min(to, track.length)
  let sum = 0
  for (let h = from; h < end; h++) sum += track[h]!
  return end > from ? sum / (end - from) : 0
}
