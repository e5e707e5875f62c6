import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import type { SpeechSegment } from '@/core/measure/speech'
import type { Decibels, Seconds } from '@/core/units'
import { RIDE_RATE, type GainTrack } from './ride'
import { loudnessWithin } from './rideWishes'
import { whileSpoken } from './whileSpoken'

/** A stroke stands out of its surroundings: how loud it is, against how loud the music is around it. */
const STROKE: Seconds = 0.1
const SURROUNDINGS: Seconds = 1.5
/** Two to one: half of what stands out is taken away. */
const SHARE = 0.5
const MOST: Decibels = 3.6

/**
 * Gain that takes the strokes of a bed (drums, plucked strings) down while somebody speaks, one value every 1 / RIDE_RATE
 * seconds: the ride is slower than a stroke and can't. `bed` is K-weighted energy per 10 ms; the gain is 0 dB where the
 * music is even, and over pauses of `pauseFrom` or longer.
 */
export function evenStrokes(bed: LoudnessTrack, speech: readonly SpeechSegment[], pauseFrom: Seconds): GainTrack {
  const loudness = loudnessWithin(bed)
  const gain = whileSpoken(speech, pauseFrom, Math.ceil(bed.length * HOP * RIDE_RATE) + 1)
  for (let i = 0; i < gain.length; i++) {
    if (gain[i] === 0) continue
    const at = i / RIDE_RATE
    const near = (length: Seconds) => loudness(at - length / 2, at + length / 2)
    const out = near(STROKE) - near(SURROUNDINGS)
    gain[i] = out > 0 ? -gain[i]! * Math.min(MOST, SHARE * out) : 0
  }
  return gain
}
