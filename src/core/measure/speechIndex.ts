import type { Decibels } from '@/core/units'

/** What each third-octave band from 160 Hz to 8 kHz does for understanding (ANSI S3.5-1997, table 3). */
export const BAND_IMPORTANCE: readonly number[] = [
  0.0083, 0.0095, 0.015, 0.0289, 0.044, 0.0578, 0.0653, 0.0711, 0.0818, 0.0844, 0.0882, 0.0898, 0.0868, 0.0844, 0.0771,
  0.0527, 0.0364, 0.0185,
]
/** Index of 160 Hz among the bands of bands.ts. */
export const FIRST_IMPORTANT = 4
/** A band counts fully when the voice is 15 dB above what covers it, and not at all when it is 15 dB below. */
const REACH: Decibels = 15

/**
 * Speech intelligibility index of one moment, 0..1 (ANSI S3.5-1997, third-octave method, without the level of hearing):
 * `voice` and `cover` are levels of all bands of bands.ts. The mean over the moments in which somebody speaks is the
 * extended index of Rhebergen and Versfeld (JASA 2005).
 */
export function speechIndex(voice: ArrayLike<Decibels>, cover: ArrayLike<Decibels>): number {
  return BAND_IMPORTANCE.reduce((sum, importance, i) => {
    const band = FIRST_IMPORTANT + i
    const audible = (voice[band]! - cover[band]! + REACH) / (2 * REACH)
    return sum + importance * Math.min(1, Math.max(0, audible))
  }, 0)
}
