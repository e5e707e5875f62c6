/** Quantities. The alias says the unit; ranges are given where a value has one. */

/** Length or place in time. Lesson time counts from the lesson's first picture. */
export type Seconds = number
/** A level difference, or a gain: 0 leaves the sound as it is. */
export type Decibels = number
/** Loudness by ITU-R BS.1770, usually -70..0. */
export type Lufs = number
/** A loudness difference in LU. */
export type LoudnessUnits = number
/** True peak relative to full scale (ITU-R BS.1770, Annex 2). */
export type DecibelsTruePeak = number
export type Hertz = number
/** Whole number of sample frames. */
export type SampleIndex = number
/** Whole number of video frames. */
export type FrameIndex = number
/** Linear amplitude factor. */
export type Factor = number

/** Sample rate of everything after import: the house format. */
export const HOUSE_RATE: Hertz = 48000
/** Frame rate of every finished video. */

const NEPERS = Math.LN10 / 20
/** By the natural exponential, which is several times as fast as a power of ten. */
export const toFactor = (gain: Decibels): Factor => Math.exp(gain * NEPERS)
export const toDecibels = (factor: Factor): Decibels => 20 * Math.log10(factor)
export const toSamples = (time: Seconds, rate: Hertz = HOUSE_RATE): SampleIndex => Math.round(time * rate)
export const toFrames = (time: Seconds, rate: Hertz): FrameIndex => Math.round(time * rate)
export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
