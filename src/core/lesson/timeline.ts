import type { Seconds } from '@/core/units'
import type { BedCue, MediaHash, Nudge, Passage, Picture, SoundCue, Step } from './document'
import type { Framing } from './framing'
import type { Edge, Layer } from './layers'
import type { Frame } from '@/core/picture/frame'
import type { Motion } from '@/core/picture/motion'

/** Where everything stands in lesson time: computed from the document's anchors, never stored. */
export interface Timeline {
  steps: StepSpan[]
  passages: PassageSpan[]
  pictures: PictureSpan[]
  beds: BedSpan[]
  sounds: SoundSpan[]
  nudges: NudgePoint[]
  layers: LayerSpan[]
  edges: EdgeSpan[]
  /** What hangs on something that is not there any more, or not said: it is neither seen nor heard, or has no end. */
  loose: Loose[]
  length: Seconds
  /** Of what is seen. */
  frame: Frame
}

export interface StepSpan {
  step: Step
  index: number
  start: Seconds
  end: Seconds
  /** How far the words run past a picture of fixed length; that much of them is not heard. */
  overrun: Seconds
}

export interface PassageSpan {
  passage: Passage
  step: Step
  /** By which its take is heard: the take itself, until `sounding` says otherwise. */
  sound: MediaHash
  /** `end` is earlier than the passage would need where the picture ends first. */
  start: Seconds
  end: Seconds
}

export interface BedSpan {
  cue: BedCue
  start: Seconds
  end: Seconds
}

/** When a mark is said in the lesson. Null where it is not heard. */
export type TimeOfMark = (mark: string) => Seconds | null

export type Loose =
  | { kind: 'sound'; id: string; cue: SoundCue }
  | { kind: 'nudge'; id: string; nudge: Nudge }
  | { kind: 'bed'; id: string; cue: BedCue }
  /** It plays; only where it ends is not known any more. */
  | { kind: 'bed-end'; id: string; cue: BedCue }
  /** A further picture of a step. */
  | { kind: 'picture'; id: string; step: Step; picture: Picture }
  /** What lies over a picture. */
  | { kind: 'layer'; id: string; step: Step; layer: Layer }
  /** It is seen, to the picture's end: what it ended with is not said any more. */
  | { kind: 'layer-end'; id: string; step: Step; layer: Layer }
  /** A pin in a recording. */
  | { kind: 'pin'; id: string; step: Step }

/** One picture as it is seen; they follow each other without a gap. */
export interface PictureSpan {
  step: Step
  /** Which of the step's further pictures it is; null: the step's own. */
  further: string | null
  picture: Picture
  /** How it stands in the frame, if it is of another shape. */
  framing: Framing
  start: Seconds
  end: Seconds
  /** Of a recording: how it plays. Empty for what stands still. */
  motions: Motion[]
  /** Pins that can't be held, and those that are not said while it is seen (see motion.ts). */
  missed: string[]
  unsaid: string[]
}

/** What lies over a picture, while it does. `isGone`: it ends before the picture that it began with. */
export interface LayerSpan {
  layer: Layer
  step: Step
  start: Seconds
  end: Seconds
  isGone: boolean
}

/** The times at which a picture gives way to the next one, or the lesson comes out of plain ground or goes into it. */
export interface EdgeSpan {
  kind: Exclude<Edge['kind'], 'cut'>
  start: Seconds
  end: Seconds
  /** Where the one picture ends and the other begins. */
  boundary: Seconds
}

/** A point of the line that is added to the bed's gain by hand, at its moment of the lesson. */
export interface NudgePoint {
  nudge: Nudge
  at: Seconds
}

export interface SoundSpan {
  cue: SoundCue
  start: Seconds
  end: Seconds
}
