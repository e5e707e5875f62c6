import type { MediaHash } from '@/core/lesson/document'
import { toSamples, type Decibels, type SampleIndex, type Seconds } from '@/core/units'

/** A part of a sound laid into the mix. All places in samples at the house rate. */
export interface Clip {
  media: MediaHash
  /** Where in the media it begins. */
  from: SampleIndex
  /** Where in the mix it begins. */
  at: SampleIndex
  length: SampleIndex
  /** How fast the media runs; at another speed than 1 it is stretched, its pitch kept. */
  speed: number
  gain: Decibels
  /** Equal-power fades within the clip. */
  fadeIn: SampleIndex
  fadeOut: SampleIndex
}

export function clipOf(
  media: MediaHash,
  from: Seconds,
  start: Seconds,
  end: Seconds,
  { gain, fadeIn, fadeOut, speed = 1 }: { gain: Decibels; fadeIn: Seconds; fadeOut: Seconds; speed?: number },
): Clip {
  const at = toSamples(start)
  return {
    media,
    from: toSamples(from),
    at,
    length: Math.max(0, toSamples(end) - at),
    speed,
    gain,
    fadeIn: toSamples(fadeIn),
    fadeOut: toSamples(fadeOut),
  }
}

/** Amplitude of a clip's fades `place` samples after its beginning. */
export function fadeFactor({ fadeIn, fadeOut, length }: Clip, place: number): number {
  if (place < 0 || place > length) return 0
  let factor = 1
  if (place < fadeIn) factor *= Math.sin((Math.PI / 2) * (place / fadeIn))
  if (length - place < fadeOut) factor *= Math.sin((Math.PI / 2) * ((length - place) / fadeOut))
  return factor
}
