import { FRAME_RATE, toFrames, toSamples, type FrameIndex, type SampleIndex } from '@/core/units'
import type { Picture } from './document'
import type { Timeline } from './layout'

/** What is seen, in whole frames; runs follow each other without a gap. */
export interface PictureRun {
  step: string
  picture: Picture
  start: FrameIndex
  frames: FrameIndex
  /** So many of them move (recordings only); the last of those is then held. */
  moving: FrameIndex
}

export function planPictures(timeline: Timeline): PictureRun[] {
  return timeline.steps.flatMap(({ step, start, end }, i) => {
    const first = toFrames(start)
    const isLast = i === timeline.steps.length - 1
    const frames = (isLast ? lessonFrames(timeline) : toFrames(end)) - first
    if (frames <= 0) return []
    const { picture } = step
    const moving = picture.kind === 'recording' ? Math.min(frames, toFrames(picture.to - picture.from)) : 0
    return [{ step: step.id, picture, start: first, frames, moving }]
  })
}

/** A lesson's length in frames: the last one may be filled up with silence, but no sound is cut off. */
export const lessonFrames = (timeline: Timeline): FrameIndex =>
  Math.max(1, Math.ceil(timeline.length * FRAME_RATE - 1e-6))

/** Samples that last exactly as long as the frames. */
export const samplesOfFrames = (frames: FrameIndex): SampleIndex => toSamples(frames / FRAME_RATE)
