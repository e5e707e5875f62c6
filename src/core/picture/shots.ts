import { FRAME_RATE, toFrames, toSamples, type FrameIndex, type SampleIndex, type Seconds } from '@/core/units'
import type { Picture } from '@/core/lesson/document'
import { speedOf } from './motion'
import type { PictureSpan, Timeline } from '@/core/lesson/timeline'

/** What is seen from one frame to another; shots follow each other without a gap. */
export interface Shot {
  step: string
  start: FrameIndex
  frames: FrameIndex
  /** From the ground up. */
  layers: [PictureLayer]
  /** How it gives way to the next shot. */
  edge: { kind: 'cut' }
}

export interface PictureLayer {
  kind: 'picture'
  picture: Picture
  /** So many frames move (recordings only); the last of those is then held. */
  moving: FrameIndex
  /** Of a recording: where in the file it begins, and how fast it plays. */
  from: Seconds
  speed: number
}

export function planShots(timeline: Timeline): Shot[] {
  const runs = timeline.pictures.flatMap(runsOf)
  return runs.flatMap(({ step, at, until, moves, ...layer }, i): Shot[] => {
    const start = toFrames(at)
    const end = i === runs.length - 1 ? lessonFrames(timeline) : toFrames(until)
    const frames = end - start
    if (frames <= 0) return []
    const moving = Math.min(frames, moves ? toFrames(moves) : 0)
    return [{ step, start, frames, layers: [{ kind: 'picture', ...layer, moving }], edge: { kind: 'cut' } }]
  })
}

interface Run {
  step: string
  picture: Picture
  at: Seconds
  until: Seconds
  moves: Seconds
  from: Seconds
  speed: number
}

/** A picture that is held after it has moved is one run with the movement before it. */
function runsOf({ step, picture, start, end, motions }: PictureSpan): Run[] {
  if (picture.kind !== 'recording')
    return [{ step: step.id, picture, at: start, until: end, moves: 0, from: 0, speed: 1 }]
  const runs: Run[] = []
  for (const motion of motions) {
    const last = runs.at(-1)
    const isHeld = motion.from === motion.to
    if (isHeld && last) last.until = motion.end
    else {
      const moves = isHeld ? 0 : motion.end - motion.start
      const speed = isHeld ? 1 : speedOf(motion)
      runs.push({ step: step.id, picture, at: motion.start, until: motion.end, moves, from: motion.from, speed })
    }
  }
  return runs
}

/** A lesson's length in frames: the last one may be filled up with silence, but no sound is cut off. */
export const lessonFrames = (timeline: Timeline): FrameIndex =>
  Math.max(1, Math.ceil(timeline.length * FRAME_RATE - 1e-6))

/** Samples that last exactly as long as the frames. */
export const samplesOfFrames = (frames: FrameIndex): SampleIndex => toSamples(frames / FRAME_RATE)
