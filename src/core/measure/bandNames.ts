import type { Hertz } from '../units'

/** What third-octave bands are called: preferred numbers, which go round every ten bands (IEC 61260-1, annex E). */
const NOMINAL = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8]

/** The name, in Hz, of the third-octave band in which a frequency lies. */
export function nominalBand(frequency: Hertz): Hertz {
  const index = Math.round(10 * Math.log10(frequency))
  return NOMINAL[index % 10]! * 10 ** Math.floor(index / 10)
}
