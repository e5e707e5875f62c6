import { joinSegments, type SpeechSegment } from '@/core/measure/speech'
import { clamp, type Seconds } from '@/core/units'
import { RIDE_RATE, type GainTrack } from './ride'

/** What is done to the bed for the voice begins before the voice sets in. */
const OPENS: Seconds = 0.35
const CLOSES: Seconds = 0.6

/**
 * How much of what is done to the bed for the voice holds, 0..1 at RIDE_RATE, `count` values: all of it while somebody speaks
 * and over pauses shorter than `swellFrom`, in which the music doesn't swell either and would change its colour for nothing.
 * Moves so slowly that no filter is heard.
 */
export function whileSpoken(speech: readonly SpeechSegment[], swellFrom: Seconds, count: number): GainTrack {
  const amount = new Float32Array(count)
  for (const { start, end } of joinSegments(speech, swellFrom)) {
    const [opens, closes] = [start - OPENS, end + CLOSES]
    for (let i = Math.max(0, Math.floor(opens * RIDE_RATE)); i <= Math.min(count - 1, closes * RIDE_RATE); i++) {
      const time = i / RIDE_RATE
      const share = Math.min((time - opens) / OPENS, (closes - time) / CLOSES, 1)
      amount[i] = Math.max(amount[i]!, 0.5 - 0.5 * Math.cos(Math.PI * clamp(share, 0, 1)))
    }
  }
  return amount
}
