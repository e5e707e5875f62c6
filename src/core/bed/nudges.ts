import type { NudgePoint } from '@/core/lesson/timeline'
import type { Decibels, Seconds } from '@/core/units'
import { RIDE_RATE, type GainTrack } from './ride'

/** The line through the points, which holds the value of the first before it and of the last after it; at RIDE_RATE. */
export function nudgeTrack(points: readonly NudgePoint[], count: number): GainTrack {
  const track = new Float32Array(count)
  const [first, last] = [points[0], points.at(-1)]
  if (!first || !last) return track
  track.fill(first.nudge.gain, 0, Math.max(0, Math.ceil(first.at * RIDE_RATE)))
  track.fill(last.nudge.gain, Math.ceil(last.at * RIDE_RATE))
  for (let p = 0; p + 1 < points.length; p++) {
    const [a, b] = [points[p]!, points[p + 1]!]
    for (let i = Math.ceil(a.at * RIDE_RATE); i < Math.min(count, b.at * RIDE_RATE); i++) {
      const share = b.at > a.at ? (i / RIDE_RATE - a.at) / (b.at - a.at) : 1
      track[i] = a.nudge.gain + (b.nudge.gain - a.nudge.gain) * (a.nudge.shape === 'smooth' ? eased(share) : share)
    }
  }
  return track
}

/** From 0 to 1, level at both ends. */
export const eased = (share: number): number => 0.5 - 0.5 * Math.cos(Math.PI * share)

/** What the hand-made line adds at a moment. */
export function nudgeAt(points: readonly NudgePoint[], time: Seconds): Decibels {
  const next = points.findIndex(({ at }) => at > time)
  if (next <= 0) return points.at(next)?.nudge.gain ?? 0
  const [a, b] = [points[next - 1]!, points[next]!]
  const share = (time - a.at) / (b.at - a.at)
  return a.nudge.gain + (b.nudge.gain - a.nudge.gain) * (a.nudge.shape === 'smooth' ? eased(share) : share)
}
