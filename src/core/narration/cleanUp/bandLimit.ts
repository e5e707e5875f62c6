import { HOUSE_RATE, toFactor, type Decibels, type Seconds } from '@/core/units'
import { filteredInPlace, highPass, lowPass } from './filters'

/** Holds one band of a voice down where it stands out: the s sounds above, the puffs of breath below. */
interface BandLimit {
  /** In phase with the whole, so that taking from it takes it away. */
  band(samples: Float32Array): Float32Array
  /** Level of the band, relative to the voice's, above which it is held down. */
  above: Decibels
  /** How much of what is above is taken away, 0..1, and never more than this. */
  share: number
  most: Decibels
  /** The band's level is taken over this time; the gain comes as long before and goes as long after. */
  window: Seconds
}

/** Sharp s sounds; `most` dB at most. */
export const limitSibilance = (samples: Float32Array, voice: Decibels, most: Decibels) =>
  limitBand(samples, voice, {
    band: (all) => filteredInPlace(all, highPass(HOUSE_RATE, 5000)),
    above: -13,
    share: 0.7,
    most,
    window: 0.006,
  })

/** Puffs of breath into the microphone. */
export const limitPlosives = (samples: Float32Array, voice: Decibels) =>
  limitBand(samples, voice, {
    band: (all) => filteredInPlace(all, lowPass(HOUSE_RATE, 110)),
    above: -1,
    share: 1,
    most: 20,
    window: 0.02,
  })

function limitBand(samples: Float32Array, voice: Decibels, limit: BandLimit): Float32Array {
  const band = limit.band(samples)
  const gain = bandGains(band, voice + limit.above, limit)
  const hop = Math.round(limit.window * HOUSE_RATE)
  return samples.map((value, i) => {
    const place = i / hop
    const left = Math.floor(place)
    const factor = gain[left]! + (gain[left + 1]! - gain[left]!) * (place - left)
    return value + band[i]! * (factor - 1)
  })
}

/** One factor a window; the deepest of a window and its neighbours counts, so that none is too late. */
function bandGains(band: Float32Array, threshold: Decibels, { share, most, window }: BandLimit): Float32Array {
  const hop = Math.round(window * HOUSE_RATE)
  const count = Math.ceil(band.length / hop) + 1
  const cut = Float32Array.from({ length: count }, (_, h) => {
    const part = band.subarray(h * hop, (h + 1) * hop)
    const power = part.reduce((sum, value) => sum + value * value, 0) / Math.max(1, part.length)
    const over = 10 * Math.log10(power + 1e-12) - threshold
    return Math.min(most, Math.max(0, over) * share)
  })
  return cut.map((value, h) => toFactor(-Math.max(cut[h - 1] ?? 0, value, cut[h + 1] ?? 0)))
}
