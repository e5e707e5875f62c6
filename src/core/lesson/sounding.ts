import type { MediaHash } from './document'
import type { Timeline } from './timeline'

/** The sound by which a take is heard: its own, or a cleaned one, which is as long. */
export type SoundOf = (take: MediaHash) => MediaHash

/**
 * The timeline as it sounds. Takes become sounds here, where a mix is planned and measured, and nowhere before: the
 * document and what hangs on it know only takes.
 */
export function sounding(timeline: Timeline, soundOf: SoundOf): Timeline {
  const passages = timeline.passages.map((span) => ({ ...span, sound: soundOf(span.passage.media) }))
  return { ...timeline, passages }
}
