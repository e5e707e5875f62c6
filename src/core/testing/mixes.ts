import type { MixPlan } from '@/core/mix/mixPlan'
import { toSamples, type Decibels, type Seconds } from '@/core/units'
import { TAKE } from './lessons'

/** A mix of nothing but `TAKE`, from its beginning, at a gain. */
export const mixOfTake = (gain: Decibels, length: Seconds = 4): MixPlan => ({
  length: toSamples(length),
  clips: {
    voice: [{ media: TAKE, from: 0, at: 0, length: toSamples(length), speed: 1, gain, fadeIn: 0, fadeOut: 0 }],
    recordings: [],
    sounds: [],
    bed: [],
  },
  gains: { voice: null, recordings: null, sounds: null, bed: null },
  muted: [],
  strokes: null,
  pocket: null,
  gain: 0,
  ceiling: -1,
})
