import type { BedCue } from '@/core/lesson/document'
import type { BedSpan } from '@/core/lesson/timeline'
import { toDecibels, type Decibels, type Seconds } from '@/core/units'
import { eased } from './nudges'
import { RIDE_RATE, type GainTrack } from './ride'

/** Quieter than any bed is heard. */
const SILENT: Decibels = -100

/**
 * What the fades the author has set take off the bed, at RIDE_RATE. They lie on top of the ride, which would otherwise
 * work against them.
 */
export function fadeTrack(beds: readonly BedSpan[], count: number): GainTrack {
  const track = new Float32Array(count)
  beds.forEach(({ cue, start, end }, i) => {
    if (!isBlended(beds[i - 1], beds[i])) lay(track, cue, start, cue.fadeIn ?? 0, 1)
    if (!isBlended(beds[i], beds[i + 1])) lay(track, cue, end, cue.fadeOut ?? 0, -1)
  })
  return track
}

/** Pieces that follow each other without a gap, the later one blended in. */
export const isBlended = (before: BedSpan | undefined, next: BedSpan | undefined): boolean =>
  before !== undefined && next !== undefined && Math.abs(before.end - next.start) < 1e-6 && next.cue.blend > 0

/** A fade from silence at `edge` to nothing taken off `length` later, or earlier where `direction` is -1. */
function lay(track: GainTrack, { fadeShape }: BedCue, edge: Seconds, length: Seconds, direction: 1 | -1): void {
  if (length <= 0) return
  const [from, to] = direction > 0 ? [edge, edge + length] : [edge - length, edge]
  const last = Math.min(track.length - 1, Math.floor(to * RIDE_RATE))
  for (let i = Math.max(0, Math.ceil(from * RIDE_RATE)); i <= last; i++) {
    const share = Math.abs(i / RIDE_RATE - edge) / length
    track[i]! += Math.max(SILENT, toDecibels(fadeShape === 'smooth' ? eased(share) : share))
  }
}
