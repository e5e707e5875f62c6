import type { Biquad } from '@/core/measure/kWeighting'
import type { Decibels, Hertz } from '@/core/units'

/** Second-order filters after Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients". */

export const highPass = (rate: Hertz, corner: Hertz, q = Math.SQRT1_2): Biquad => {
  const { cos, alpha } = angle(rate, corner, q)
  return normalised((1 + cos) / 2, -(1 + cos), (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
}

export const lowPass = (rate: Hertz, corner: Hertz, q = Math.SQRT1_2): Biquad => {
  const { cos, alpha } = angle(rate, corner, q)
  return normalised((1 - cos) / 2, 1 - cos, (1 - cos) / 2, 1 + alpha, -2 * cos, 1 - alpha)
}

export const bell = (rate: Hertz, centre: Hertz, gain: Decibels, q: number): Biquad => {
  const { cos, alpha } = angle(rate, centre, q)
  const a = 10 ** (gain / 40)
  return normalised(1 + alpha * a, -2 * cos, 1 - alpha * a, 1 + alpha / a, -2 * cos, 1 - alpha / a)
}

/** Takes one frequency out, and what is nearer to it than a `q`th of it. */
export const notch = (rate: Hertz, centre: Hertz, q: number): Biquad => {
  const { cos, alpha } = angle(rate, centre, q)
  return normalised(1, -2 * cos, 1, 1 + alpha, -2 * cos, 1 - alpha)
}

/** `side` 1: everything below the corner, -1: everything above it. */
export const shelf = (rate: Hertz, corner: Hertz, gain: Decibels, side: 1 | -1): Biquad => {
  const { cos, alpha } = angle(rate, corner, Math.SQRT1_2)
  const a = 10 ** (gain / 40)
  const c = cos * side
  const root = 2 * Math.sqrt(a) * alpha
  return normalised(
    a * (a + 1 - (a - 1) * c + root),
    side * 2 * a * (a - 1 - (a + 1) * c),
    a * (a + 1 - (a - 1) * c - root),
    a + 1 + (a - 1) * c + root,
    side * -2 * (a - 1 + (a + 1) * c),
    a + 1 + (a - 1) * c - root,
  )
}

/** The signal after a filter that was at rest. */
export function filtered(samples: Float32Array, { b0, b1, b2, a1, a2 }: Biquad): Float32Array {
  const out = new Float32Array(samples.length)
  let z1 = 0
  let z2 = 0
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!
    const y = b0 * x + z1
    z1 = b1 * x - a1 * y + z2
    z2 = b2 * x - a2 * y
    out[i] = y
  }
  return out
}

/** The signal after a filter run forwards and backwards: twice its effect, and nothing moved in time. */
export function filteredInPlace(samples: Float32Array, filter: Biquad): Float32Array {
  return filtered(filtered(samples, filter).reverse(), filter).reverse()
}

function angle(rate: Hertz, corner: Hertz, q: number) {
  const w = (2 * Math.PI * corner) / rate
  return { cos: Math.cos(w), alpha: Math.sin(w) / (2 * q) }
}

const normalised = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Biquad => ({
  b0: b0 / a0,
  b1: b1 / a0,
  b2: b2 / a0,
  a1: a1 / a0,
  a2: a2 / a0,
})
