import { createTruePeakMeter } from './truePeak'

const rate = 48000
/** A sine of `amplitude` full scales at `rate / divisor`, faded in and out so that only its own peaks count. */
function sine(amplitude: number, divisor: number, degrees: number, length = rate): Float32Array {
  const fade = 4800
  return Float32Array.from({ length }, (_, i) => {
    const edge = Math.min(1, i / fade, (length - 1 - i) / fade)
    return amplitude * edge * Math.sin((2 * Math.PI * i) / divisor + (degrees * Math.PI) / 180)
  })
}
function peakOf(signal: Float32Array, blockLength = 1000): number | null {
  const meter = createTruePeakMeter(1)
  for (let at = 0; at < signal.length; at += blockLength) meter.push([signal.subarray(at, at + blockLength)])
  return meter.peak()
}
const expectPeak = (value: number | null, expected: number) => {
  expect(value!).toBeLessThanOrEqual(expected + 0.2)
  expect(value!).toBeGreaterThanOrEqual(expected - 0.4)
}

describe('EBU Tech 3341, true peak (+0.2/-0.4 dB)', () => {
  test.each([
    [15, 0.5, 4, 0, -6],
    [16, 0.5, 4, 45, -6],
    [17, 0.5, 6, 60, -6],
    [18, 0.5, 8, 67.5, -6],
    [19, 1.41, 4, 45, 3],
  ])('case %i', (_, amplitude, divisor, phase, expected) =>
    expectPeak(peakOf(sine(amplitude, divisor, phase)), expected),
  )

  /** Cases 20-23: one louder period between samples, made at four times the rate and thinned out at each offset. */
  test.each([0, 1, 2, 3])('a burst between samples, offset %i', (offset) => {
    const fine = Float32Array.from({ length: rate * 4 }, (_, i) => {
      const t = (i - rate * 2) / (4 * 96)
      return Math.exp(-t * t) * Math.cos((2 * Math.PI * (i - rate * 2)) / 16)
    })
    expectPeak(peakOf(fine.filter((_, i) => i % 4 === offset)), 0)
  })
})

test('the peak does not depend on how the signal is cut into blocks', () => {
  const signal = sine(0.8, 5.3, 20)
  const whole = peakOf(signal, signal.length)!
  for (const blockLength of [1, 7, 64, 4096]) expect(peakOf(signal, blockLength)).toBeCloseTo(whole, 6)
})

test('a peak in the last samples counts, silence has none', () => {
  const click = new Float32Array(100)
  click[99] = 0.5
  expect(peakOf(click)!).toBeGreaterThanOrEqual(-6.03)
  expect(peakOf(new Float32Array(1000))).toBeNull()
})
