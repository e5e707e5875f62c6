import type { Hertz, Seconds } from '@/core/units'
import { BANDS, frameAt, melOf } from './mel'
import { averaged, FEATURES } from './features'

/** A sentence as a synthesised voice says it: what a take is compared with. */
export interface SpokenReference {
  /** Mono. */
  samples: Float32Array
  rate: Hertz
  /** Where each word begins. */
  starts: Seconds[]
  /** Whether a comma or the like follows each word. */
  punctuated: boolean[]
}

/** A whole script's sound without its pauses, in frames of 10 ms: where its words and sentences are. */
export interface ReferenceGraph {
  /** Word of each frame, counted through the whole script. */
  word: Int32Array
  /** First frame of each sentence, and one past the last. */
  sentenceAt: Int32Array
  /** First word of each sentence, and one past the last. */
  wordAt: Int32Array
  punctuated: boolean[]
}

/** The same with its spectra, see mel.ts. */
export interface MelReference extends ReferenceGraph {
  mel: Float32Array
}

/** The same as it is compared with a take, see features.ts. */
export interface Reference extends ReferenceGraph {
  features: Float32Array
}

/** Reference frames below their sentence's loudest by more than this are silence (natural logarithm of power). */
const SILENT = 8
/** Shorter silences are within words: the closure of a p, t or k. */
const SHORTEST_PAUSE = 12 // frames

export interface ReferenceBuilder {
  add(sentence: SpokenReference): void
  finish(): MelReference
}

/** Takes a script's sentences one by one, so that their sound need not be in memory at once. */
export function createReference(): ReferenceBuilder {
  const parts: { mel: Float32Array; word: number[] }[] = []
  const punctuated: boolean[] = []
  return {
    add(sentence) {
      const { mel, word } = spokenFrames(sentence, punctuated.length)
      parts.push({ mel, word })
      punctuated.push(...sentence.punctuated)
    },
    finish() {
      const total = parts.reduce((sum, { word }) => sum + word.length, 0)
      const mel = new Float32Array(total * BANDS)
      const word = new Int32Array(total)
      const sentenceAt = new Int32Array(parts.length + 1)
      parts.forEach((part, i) => {
        const at = sentenceAt[i]!
        mel.set(part.mel, at * BANDS)
        word.set(part.word, at)
        sentenceAt[i + 1] = at + part.word.length
      })
      const wordAt = Int32Array.from(sentenceAt, (at) => (at < total ? word[at]! : punctuated.length))
      return { mel, word, sentenceAt, wordAt, punctuated }
    },
  }
}

/** A sentence's frames that sound, and the word of each. Every word keeps at least one frame. */
function spokenFrames({ samples, rate, starts }: SpokenReference, firstWord: number) {
  const all = melOf(samples, rate)
  const frames = all.length / BANDS
  const energy = (frame: number) => loudestOf(all, frame)
  let loudest = -Infinity
  for (let f = 0; f < frames; f++) loudest = Math.max(loudest, energy(f))
  const silent = Uint8Array.from({ length: frames }, (_, f) => (energy(f) < loudest - SILENT ? 1 : 0))
  keepClosures(silent)
  const wordOf = new Int32Array(frames)
  starts.forEach((start, w) => wordOf.fill(w, Math.max(0, Math.min(frames - 1, frameAt(start)))))
  const kept: number[] = []
  for (let f = 0; f < frames; f++) {
    const isOnly = wordOf[f] !== wordOf[f - 1] && wordOf[f] !== wordOf[f + 1]
    if (!silent[f] || isOnly) kept.push(f)
  }
  const mel = new Float32Array(kept.length * BANDS)
  kept.forEach((f, i) => mel.set(all.subarray(f * BANDS, (f + 1) * BANDS), i * BANDS))
  return { mel, word: kept.map((f) => firstWord + wordOf[f]!) }
}

/** The loudest band of a frame. */
const loudestOf = (mel: Float32Array, frame: number) =>
  mel.subarray(frame * BANDS, (frame + 1) * BANDS).reduce((max, value) => Math.max(max, value), -Infinity)

/** Silence at both ends goes whatever its length; within the sentence only pauses do. */
function keepClosures(silent: Uint8Array): void {
  const first = silent.indexOf(0)
  const last = silent.lastIndexOf(0)
  for (let f = first; f >= 0 && f < last; f++) {
    if (!silent[f]) continue
    let to = f
    while (silent[to]) to++
    if (to - f < SHORTEST_PAUSE) silent.fill(0, f, to)
    f = to
  }
}

/** The reference in frames of `step` times 10 ms, its tempo changed by `stretch` (2: half as fast). */
export function scaledReference(reference: Reference, step: number, stretch: number): Reference {
  const per = step / stretch
  const { features, word, sentenceAt } = reference
  const sentences = sentenceAt.length - 1
  const counts = Array.from({ length: sentences }, (_, s) =>
    Math.max(1, Math.round((sentenceAt[s + 1]! - sentenceAt[s]!) / per)),
  )
  const total = counts.reduce((sum, count) => sum + count, 0)
  const scaled = new Float32Array(total * FEATURES)
  const words = new Int32Array(total)
  const at = new Int32Array(sentences + 1)
  counts.forEach((count, s) => {
    const [from, to] = [sentenceAt[s]!, sentenceAt[s + 1]!]
    const width = (to - from) / count
    for (let i = 0; i < count; i++) {
      const first = Math.min(to - 1, Math.round(from + i * width))
      const last = Math.max(first + 1, Math.min(to, Math.round(from + (i + 1) * width)))
      scaled.set(averaged(features, first, last, last - first), (at[s]! + i) * FEATURES)
      words[at[s]! + i] = word[(first + last - 1) >> 1]!
    }
    at[s + 1] = at[s]! + count
  })
  return { ...reference, features: scaled, word: words, sentenceAt: at }
}

/** The sentence a reference frame belongs to. */
export function sentenceAtFrame(sentenceAt: Int32Array, frame: number): number {
  let low = 0
  let high = sentenceAt.length - 2
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (sentenceAt[middle]! <= frame) low = middle
    else high = middle - 1
  }
  return low
}
