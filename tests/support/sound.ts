/** Looks for one sound in another, as one would by ear. */

const COARSE = 16
const LANDMARK = 12_000

/** Where `part` begins in `whole`, and how alike they are there (-1..1) and how loud against it (1: the same). */
export function locate(part: Float32Array, whole: Float32Array): { at: number; alike: number; gain: number } {
  // A quarter of a second is enough to find the place.
  const [a, b] = [decimated(part.subarray(0, LANDMARK)), decimated(whole)]
  let best = { at: 0, alike: -1 }
  for (let at = 0; at + a.length <= b.length; at++) {
    const alike = likeness(a, b, at)
    if (alike > best.alike) best = { at, alike }
  }
  let fine = { at: 0, alike: -1 }
  for (
    let at = Math.max(0, (best.at - 2) * COARSE);
    at <= (best.at + 2) * COARSE && at + part.length <= whole.length;
    at++
  ) {
    const alike = likeness(part, whole, at)
    if (alike > fine.alike) fine = { at, alike }
  }
  return { ...fine, gain: rms(part) / rms(whole.subarray(fine.at, fine.at + part.length)) }
}

export function rms(samples: Float32Array): number {
  let sum = 0
  for (const value of samples) sum += value * value
  return Math.sqrt(sum / Math.max(1, samples.length))
}

/** Correlation of `part` with the samples of `whole` from `at` on. */
export function likeness(part: Float32Array, whole: Float32Array, at: number): number {
  let product = 0
  let a = 0
  let b = 0
  for (let i = 0; i < part.length; i++) {
    const x = part[i]!
    const y = whole[at + i]!
    product += x * y
    a += x * x
    b += y * y
  }
  return a > 0 && b > 0 ? product / Math.sqrt(a * b) : 0
}

/** Means of `COARSE` samples: enough to find a place. */
function decimated(samples: Float32Array): Float32Array {
  return Float32Array.from({ length: Math.floor(samples.length / COARSE) }, (_, i) => {
    let sum = 0
    for (let j = 0; j < COARSE; j++) sum += samples[i * COARSE + j]!
    return sum / COARSE
  })
}
