import { FEATURES } from '@/core/narration/align/features'
import type { TakeFrames } from '@/core/narration/align/path'
import type { Reference } from '@/core/narration/align/reference'
import { noise } from './signals'

/** Three sentences of four words each, a word 0.3 s long; every frame has a sound of its own. */
const [WORD, SENTENCE, SENTENCES] = [30, 120, 3]
const count = SENTENCE * SENTENCES
/** So that frames that match are about 5 apart and others about 8.5, as voices are. */
const SCALE = 1.7
export const reference: Reference = {
  features: noise(count * FEATURES, 5).map((value) => value * SCALE),
  word: Int32Array.from({ length: count }, (_, r) => Math.floor(r / WORD)),
  sentenceAt: Int32Array.from([0, 120, 240, 360]),
  wordAt: Int32Array.from([0, 4, 8, 12]),
  punctuated: Array.from({ length: 12 }, (_, w) => w % 4 === 3),
}

/** A take that says these stretches of the reference one after the other, with silence between them. */
export function saying(stretches: readonly (readonly [from: number, to: number])[]): {
  take: TakeFrames
  said: number[]
} {
  const said = stretches.flatMap(([from, to]) => [
    ...Array.from({ length: to - from }, (_, i) => from + i),
    ...Array<number>(25).fill(-1),
  ])
  const features = noise(said.length * FEATURES, 9).map((value) => value * SCALE)
  said.forEach((r, t) => {
    for (let d = 0; r >= 0 && d < FEATURES; d++) features[t * FEATURES + d]! += reference.features[r * FEATURES + d]!
  })
  return { take: { features, speech: Float32Array.from(said, (r) => (r < 0 ? 0 : 1)), step: 1 }, said }
}
