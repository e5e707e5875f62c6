import type { Seconds } from '@/core/units'
import type { BedCue, Passage, Picture, Said, SoundCue, Step } from './document'
import type { Motion } from './motion'

/** Where everything stands in lesson time: computed from the document's anchors, never stored. */
export interface Timeline {
  steps: StepSpan[]
  passages: PassageSpan[]
  pictures: PictureSpan[]
  beds: BedSpan[]
  sounds: SoundSpan[]
  /** Sounds whose step, word or other sound has gone: they are not heard. */
  loose: SoundCue[]
  length: Seconds
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
  /** `end` is earlier than the passage would need where the picture ends first. */
  start: Seconds
  end: Seconds
}

export interface BedSpan {
  cue: BedCue
  start: Seconds
  end: Seconds
}

/**
 * When something is said in the lesson: in the passage that has its place, rather in the step it is asked for. Null where
 * it is not heard.
 */
export type TimeOfSaid = (said: Said, step?: string) => Seconds | null

/** One picture as it is seen; they follow each other without a gap. */
export interface PictureSpan {
  step: Step
  picture: Picture
  start: Seconds
  end: Seconds
  /** Of a recording: how it plays. Empty for what stands still. */
  motions: Motion[]
  /** Pins that can't be held (see motion.ts). */
  missed: string[]
}

export interface SoundSpan {
  cue: SoundCue
  start: Seconds
  end: Seconds
}
