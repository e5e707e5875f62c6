import type { HandedWords } from '@/messages/words'
import type { Finding } from '@/core/check/finding'
import type { BalancePicture } from '@/core/mix/balancePicture'
import type { BedWay, MixPlan } from '@/core/mix/mixPlan'
import type { StrokesWorth } from '@/core/mix/strokesWorth'
import type { Lesson, MediaHash, TrackName } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import type { Found } from '@/core/narration/words/alignments'
import type { corridorShares } from '@/core/mix/balanceSheet'
import type { Decibels, SampleIndex, Seconds } from '@/core/units'

/** What the page, its two workers and the player's worklet say to each other. */

/** What a worker says first: from now on it hears what it is told. */
export const LISTENING = 'listening'

/** Sound of a microphone; `end`: when its last sample was heard, by the audio context's clock. */
export interface CapturedBlock {
  samples: Float32Array
  end: Seconds
}

export type Hearing = 'all' | TrackName

/** The mix as it is drawn: loudness every 100 ms over 400 ms as it stands in the mix, in LUFS. */
export interface MixPicture {
  voice: Float32Array
  bed: Float32Array
  sum: Float32Array
  /** Voice less bed over 3 s inside a sentence, every 100 ms; NaN where nobody speaks or nothing plays. */
  clearance: Float32Array
  shares: ReturnType<typeof corridorShares>
  gain: Decibels
  /** False where the analysis of a sound could not be had: it is to be planned again. */
  isWhole: boolean
  findings: Finding[]
  /** The clearance asked for, at RIDE_RATE. */
  targets: Float32Array
}

/** A lesson as it is to be heard. */
export interface HeardLesson {
  lesson: Lesson
  /** Of all its files, and of its cleaned voices. */
  media: MediaInfo[]
  /** By what takes are heard, where it is not by themselves: take, cleaned sound. */
  sounds: [take: MediaHash, sound: MediaHash][]
  way: BedWay
}

export interface PlanWorkerApi {
  /** The line to the mix worker, and the words in which it tells what it finds. */
  connect(port: MessagePort, words: HandedWords): void
  /** Plans the lesson anew, hands the plan to the mix worker, and draws it. `serial` counts the plans. */
  setLesson(heard: HeardLesson, serial: number): Promise<MixPicture>
  /** The plan that was made last, for the balance view. */
  balance(): BalancePicture
  /** It takes as long as a plan does. */
  strokesWorth(): StrokesWorth | null
  /** What is found in the words and captions of the lesson that was planned last; `found`: in takes, since the last call. */
  findInWords(found: [key: string, found: Found | null][]): Finding[]
}

export interface MixWorkerApi {
  /** The worklet's end of the line. */
  connect(port: MessagePort): void
  /** The line on which the plan worker tells of new plans. */
  planFrom(port: MessagePort): void
  /** If the lesson plays, the change is heard at once. */
  setMix(lesson: Lesson, plan: MixPlan, media: MediaInfo[], serial: number): void
  /** Plays as soon as plan number `serial` is there: a place in the lesson means nothing to the one before. */
  play(from: Seconds, until: Seconds | null, serial: number): void
  stop(): void
  listenTo(hearing: Hearing): void
}

/** From the worker to the worklet. A stream is one unbroken run of blocks from a place in the lesson on. */
export type ToWorklet =
  | {
      type: 'stream'
      stream: number
      /** Place in the lesson where the stream begins. */
      at: SampleIndex
      /** Take over when the stream that plays now reaches this place; null: at once. */
      insteadOf: SampleIndex | null
    }
  | { type: 'block'; stream: number; left: Float32Array; right: Float32Array; last: boolean }
  | { type: 'halt' }

/** From the worklet to the worker and the page. */
export interface PlayReport {
  stream: number
  /** Place in the lesson of the next sample to be played, and the context's time at which it is. */
  position: SampleIndex
  time: Seconds
  ended: boolean
  /** Samples of silence played so far because no block was there in time. */
  missed: number
}
