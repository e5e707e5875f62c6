import { HOUSE_RATE, type Hertz } from '@/core/units'

/** One second-order section, normalised so that a0 = 1. */
export interface Biquad {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

/**
 * The two stages of K-weighting (ITU-R BS.1770-5, Annex 1) at any sample rate.
 *
 * The recommendation tabulates coefficients for 48 kHz only; these are the analogue prototypes behind
 * the tables (high shelf at 1682 Hz with +4 dB, then a high-pass at 38 Hz) put through the bilinear transform.
 */
export function kWeighting(rate: Hertz): [shelf: Biquad, highPass: Biquad] {
  return [highShelf(rate), highPass(rate)]
}

function highShelf(rate: Hertz): Biquad {
  const k = Math.tan((Math.PI * 1681.974450955533) / rate)
  const q = 0.7071752369554196
  const top = 10 ** (3.999843853973347 / 20)
  const middle = top ** 0.4996667741545416
  const a0 = 1 + k / q + k * k
  return {
    b0: (top + (middle * k) / q + k * k) / a0,
    b1: (2 * (k * k - top)) / a0,
    b2: (top - (middle * k) / q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / q + k * k) / a0,
  }
}

function highPass(rate: Hertz): Biquad {
  const k = Math.tan((Math.PI * 38.13547087602444) / rate)
  const q = 0.5003270373238773
  const a0 = 1 + k / q + k * k
  return { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / a0, a2: (1 - k / q + k * k) / a0 }
}

/** Factor by which K-weighting changes the power of a tone. */
export function kWeightingPower(frequency: Hertz): number {
  const angle = (2 * Math.PI * frequency) / HOUSE_RATE
  return kWeighting(HOUSE_RATE).reduce((power, section) => power * powerAt(section, angle), 1)
}

function powerAt({ b0, b1, b2, a1, a2 }: Biquad, angle: number): number {
  const size = (x0: number, x1: number, x2: number) =>
    (x0 + x1 * Math.cos(angle) + x2 * Math.cos(2 * angle)) ** 2 + (x1 * Math.sin(angle) + x2 * Math.sin(2 * angle)) ** 2
  return size(b0, b1, b2) / size(1, a1, a2)
}

/**
 * Weights with which channels enter the loudness sum (BS.1770-5, Annex 1, table 3), in WAV channel order:
 * mono, stereo, L R C, quadro, 5.0 (L R C Ls Rs) and 5.1 (L R C LFE Ls Rs). Further channels count as fronts.
 */
export function channelWeights(channels: number): number[] {
  const surround = 1.41
  if (channels === 4) return [1, 1, surround, surround]
  if (channels === 5) return [1, 1, 1, surround, surround]
  if (channels === 6) return [1, 1, 1, 0, surround, surround]
  return Array.from({ length: channels }, () => 1)
}
