import type { Caption } from '@/core/captions/captions'
import type { Chapter } from '@/core/captions/chapters'
import { RIDE_RATE } from '@/core/bed/ride'
import type { MixLevels } from '@/core/mix/mixPlan'
import { lessonFrames, samplesOfFrames, type Shot } from '@/core/picture/shots'
import type { SampleRange } from '@/core/mix/renderer'
import type { FrameIndex, Hertz, Seconds } from '@/core/units'
import type { Timeline } from '@/core/lesson/timeline'

/** A stretch of a lesson that is made for itself: from a frame to before another. */
export interface Part {
  from: FrameIndex
  to: FrameIndex
  /** Frames a second. */
  rate: Hertz
}

export const wholeOf = (timeline: Timeline): Part => ({
  from: 0,
  to: lessonFrames(timeline),
  rate: timeline.frame.rate,
})

/** The frames that a stretch of time covers, at least one. */
export function partBetween(start: Seconds, end: Seconds, timeline: Timeline): Part {
  const { to: frames, rate } = wholeOf(timeline)
  const from = Math.min(frames - 1, Math.max(0, Math.round(start * rate)))
  return { from, to: Math.min(frames, Math.max(from + 1, Math.round(end * rate))), rate }
}

export const secondsOf = ({ from, to, rate }: Part): { start: Seconds; end: Seconds; length: Seconds } => ({
  start: from / rate,
  end: to / rate,
  length: (to - from) / rate,
})

export const samplesOf = ({ from, to, rate }: Part): SampleRange => ({
  from: samplesOfFrames(from, rate),
  to: samplesOfFrames(to, rate),
})

export function shotsWithin(shots: readonly Shot[], { from, to, rate }: Part): Shot[] {
  return shots.flatMap((shot): Shot[] => {
    const [first, last] = [Math.max(shot.start, from), Math.min(shot.start + shot.frames, to)]
    if (last <= first) return []
    const skipped = first - shot.start
    const cut = { ...shot, start: first - from, frames: last - first }
    if (cut.kind === 'plays') return [{ ...cut, from: cut.from + (skipped / rate) * cut.speed }]
    if (cut.kind === 'drawn') return [{ ...cut, stacks: cut.stacks.slice(skipped, skipped + last - first) }]
    return [cut]
  })
}

/** What lies in a part, in the part's own time; what sticks out is cut. */
export function within<T extends { start: Seconds; end: Seconds }>(spans: readonly T[], part: Part): T[] {
  const { start: from, end: to } = secondsOf(part)
  return spans
    .filter(({ start, end }) => end > from && start < to)
    .map((span) => ({ ...span, start: Math.max(0, span.start - from), end: Math.min(to, span.end) - from }))
}

/** Captions that lie in a part; of one that is cut at least half a second must be left: less can't be read. */
export const captionsWithin = (captions: readonly Caption[], part: Part): Caption[] => {
  const { start: from, end: to } = secondsOf(part)
  // By less than a frame nothing is cut: a lesson's end is none of a frame.
  const isWhole = ({ start, end }: Caption) => start >= from - 1 / part.rate && end <= to + 1 / part.rate
  const isLong = ({ start, end }: Caption) => Math.min(end, to) - Math.max(start, from) >= 0.5
  return within(
    captions.filter((caption) => isWhole(caption) || isLong(caption)),
    part,
  )
}

/** A chapter changes within half a frame of its picture: else one that has ended would reach some milliseconds into a part. */
export function chaptersWithin(chapters: readonly Chapter[], part: Part): Chapter[] {
  const { start, end } = secondsOf(part)
  const atEdge = (time: Seconds) => [start, end].find((edge) => Math.abs(edge - time) <= 0.5 / part.rate) ?? time
  return within(
    chapters.map((chapter) => ({ ...chapter, start: atEdge(chapter.start), end: atEdge(chapter.end) })),
    part,
  )
}

/** By what a part's sound is judged. */
export function levelsWithin(levels: MixLevels, part: Part): Pick<MixLevels, 'said' | 'music' | 'clearance'> {
  const cells = RIDE_RATE / part.rate
  return {
    said: within(levels.said, part),
    music: within(levels.music, part),
    clearance: levels.clearance.slice(Math.round(part.from * cells), Math.round(part.to * cells) + 1),
  }
}
