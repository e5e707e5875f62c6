import type { SpeechSegment } from '@/core/measure/speech'
import { clamp, type Seconds } from '@/core/units'
import { BANDS, frameAt, FRAMES_PER_SECOND } from './mel'
import { describeAlignment, nothingSaid } from './describe'
import { averaged, comparable, inRoomOf } from './features'
import { findPath, type Band, type TakeFrames } from './path'
import { withRestarts } from './restarts'
import { scaledReference, sentenceAtFrame, type MelReference, type Reference } from './reference'
import type { Alignment } from './alignment'
import { visitsOf } from './visits'

export interface AlignOptions {
  onProgress?: (share: number) => void
}

/** Steps of the three passes in frames of 10 ms; the first is coarser for long takes. */
const COARSE = { short: 8, long: 16, longFrom: 900 * FRAMES_PER_SECOND }
const MIDDLE = 4
/** How much slower than its reference a take may be; a difference of so much (as a logarithm) is none. */
const STRETCH = { least: 0.6, most: 1.7 }
const SAME_TEMPO = 0.06
/** Half the width of the bands. */
const FIRST_BAND = { least: 60, share: 0.12 } // seconds, share of the take
/**
 * How much dearer than the cheapest a way may be and still be followed, in each pass (see path.ts): more than it costs to
 * begin a sentence again and some bad frames besides, or the right way is given up where it turns back.
 */
const BEAMS = { coarse: 700, middle: 350, fine: 400 }
/** Around a coarser path: so far before and after in the script, and so far in time, for where the path jumps. */
const SECOND_BAND: BandWidth = { half: 12, reach: 1.5 }
const THIRD_BAND: BandWidth = { half: 0.5, reach: 0.3 }

interface BandWidth {
  half: Seconds
  reach: Seconds
}

/** What is needed of a take: its spectra (see mel.ts), and where in it somebody speaks. */
export interface TakeSpectra {
  mel: Float32Array
  speech: readonly SpeechSegment[]
}

/**
 * Aligns a take with its script by comparing it with a synthesised reading: coarsely over the whole, finer around what
 * was found, and at 10 ms at last.
 */
export function alignTake(take: TakeSpectra, script: MelReference, { onProgress }: AlignOptions = {}): Alignment {
  const compared = compare(take, script)
  if (!compared) return nothingSaid(script)
  const { features, speaking, reference } = compared
  const { stretch, ...coarse } = atItsTempo(compared)
  onProgress?.(0.4)

  const middle = takeFrames(features, speaking, MIDDLE)
  const middleReference = scaledReference(reference, MIDDLE, stretch)
  const around = carriedBand(coarse.path.at, coarse.reference, middleReference, coarse.step, middle, SECOND_BAND)
  const second = findPath(middle, middleReference, around, BEAMS.middle)
  onProgress?.(0.8)

  const fine = takeFrames(features, speaking, 1)
  const fineReference = scaledReference(reference, 1, stretch)
  const narrow = carriedBand(second.at, middleReference, fineReference, MIDDLE, fine, THIRD_BAND)
  const third = findPath(fine, fineReference, narrow, BEAMS.fine)
  onProgress?.(1)
  return describeAlignment(withRestarts(third.at, fine, fineReference), fine, fineReference)
}

/**
 * How well a take fits a script at first glance, as a mean cost of a frame: lower is better. Tells which of several
 * ways to look at a take, or which reference, suits it.
 */
export function coarseFit(take: TakeSpectra, script: MelReference): number {
  const compared = compare(take, script)
  if (!compared) return Infinity
  const { path } = coarsePath(compared)
  return path.cost / compared.speaking.length
}

interface Compared {
  features: Float32Array
  speaking: Uint8Array
  reference: Reference
  /** How much slower the take speaks than the reference. */
  stretch: number
}

/** Null where nothing is said, or there is nothing to say. */
function compare({ mel, speech }: TakeSpectra, script: MelReference): Compared | null {
  const speaking = speakingFrames(speech, mel.length / BANDS)
  const spoken = speaking.reduce((sum, value) => sum + value, 0)
  if (spoken === 0 || script.word.length === 0) return null
  const isSpeech = (frame: number) => speaking[frame] === 1
  return {
    features: comparable(mel, isSpeech),
    speaking,
    reference: { ...script, features: comparable(inRoomOf(mel, isSpeech, script.mel), () => true) },
    stretch: clamp(spoken / script.word.length, STRETCH.least, STRETCH.most),
  }
}

function coarsePath({ features, speaking, reference, stretch }: Compared) {
  const step = speaking.length > COARSE.longFrom ? COARSE.long : COARSE.short
  const frames = takeFrames(features, speaking, step)
  const scaled = scaledReference(reference, step, stretch)
  const path = findPath(frames, scaled, straightBand(frames, scaled), BEAMS.coarse)
  return { step, frames, reference: scaled, path, stretch }
}

/**
 * The coarse path of a reference that is as slow as the take. How slow that is, all its speech against all words tells only
 * where each is said once: who says things twice, or leaves some out, is heard in the path.
 */
function atItsTempo(compared: Compared) {
  const coarse = coarsePath(compared)
  const paces = visitsOf(coarse.path.at, coarse.frames, coarse.reference)
    .map(({ from, to, first, last }) => {
      const spoken = coarse.frames.speech.subarray(from, to).reduce((sum, value) => sum + value, 0)
      return { pace: spoken / (last - first), weight: last - first }
    })
    .sort((a, b) => a.pace - b.pace)
  let left = paces.reduce((sum, { weight }) => sum + weight, 0) / 2
  const usual = paces.find(({ weight }) => (left -= weight) <= 0)?.pace ?? 1
  if (Math.abs(Math.log(usual)) < SAME_TEMPO) return coarse
  return coarsePath({ ...compared, stretch: clamp(compared.stretch * usual, STRETCH.least, STRETCH.most) })
}

function speakingFrames(speech: readonly SpeechSegment[], frames: number): Uint8Array {
  const out = new Uint8Array(frames)
  for (const { start, end } of speech) out.fill(1, Math.max(0, frameAt(start)), Math.max(0, frameAt(end)))
  return out
}

function takeFrames(features: Float32Array, speaking: Uint8Array, step: number): TakeFrames {
  const frames = speaking.length
  const speech = new Float32Array(Math.ceil(frames / step))
  for (let f = 0; f < frames; f++)
    speech[Math.floor(f / step)]! += speaking[f]! / Math.min(step, frames - Math.floor(f / step) * step)
  return { features: step === 1 ? features : averaged(features, 0, frames, step), speech, step }
}

/** A band along the straight line from first to last word, by spoken time. */
function straightBand({ speech, step }: TakeFrames, { word }: Reference): Band {
  const total = speech.reduce((sum, value) => sum + value, 0)
  const perSecond = FRAMES_PER_SECOND / step
  const half = Math.ceil(Math.max(FIRST_BAND.least * perSecond, FIRST_BAND.share * speech.length))
  let passed = 0
  return bandOf(speech.length, word.length, (t) => {
    passed += speech[t]!
    const centre = Math.round((passed / total) * word.length)
    return [centre - half, centre + half]
  })
}

/** A band around a path whose frames are `pathStep` times 10 ms long. */
function carriedBand(
  path: Int32Array,
  from: Reference,
  to: Reference,
  pathStep: number,
  { speech, step }: TakeFrames,
  { half, reach }: BandWidth,
): Band {
  const places = Int32Array.from(path, (at) => finerFrame(at < 0 ? Math.max(0, -2 - at) : at, from, to))
  const width = Math.ceil((half * FRAMES_PER_SECOND) / step)
  const around = Math.ceil((reach * FRAMES_PER_SECOND) / pathStep)
  return bandOf(speech.length, to.word.length, (t) => {
    const centre = Math.min(places.length - 1, Math.floor((t * step) / pathStep))
    let [low, high] = [Infinity, -Infinity]
    for (let c = Math.max(0, centre - around); c <= Math.min(places.length - 1, centre + around); c++) {
      low = Math.min(low, places[c]!)
      high = Math.max(high, places[c]!)
    }
    return [low - width, high + width]
  })
}

function bandOf(frames: number, count: number, edges: (t: number) => [low: number, high: number]): Band {
  const band = { low: new Int32Array(frames), high: new Int32Array(frames) }
  for (let t = 0; t < frames; t++) {
    const [low, high] = edges(t)
    band.low[t] = clamp(low, 0, count - 1)
    band.high[t] = clamp(high, 0, count - 1)
  }
  return band
}

/** The same place of the script in a finer reference. */
function finerFrame(frame: number, from: Reference, to: Reference): number {
  const s = sentenceAtFrame(from.sentenceAt, frame)
  const share = (frame - from.sentenceAt[s]!) / (from.sentenceAt[s + 1]! - from.sentenceAt[s]!)
  return Math.round(to.sentenceAt[s]! + share * (to.sentenceAt[s + 1]! - to.sentenceAt[s]!))
}
