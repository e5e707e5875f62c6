import type { Lesson, Mark } from '@/core/lesson/document'
import { emptyLesson, newBed, newStep, newStill } from '@/core/lesson/newParts'
import { createAnalyser, type Analysis } from '@/core/measure/analysis'
import type { SampleSource } from '@/core/mix/renderer'
import { HOUSE_RATE, toFactor, type Decibels, type Seconds } from '@/core/units'
import { seededRandom } from '@/core/random'
import { noise } from './signals'

/** Sounds and lessons for tests, made by formula. */

export const TAKE = '1'.repeat(64)
export const SONG = '2'.repeat(64)
export const DECK = '3'.repeat(64)

/** Bursts of noise that rise and fall like syllables, with pauses of silence: [level or null, length]. */
export function speechLike(
  parts: readonly (readonly [level: Decibels | null, length: Seconds])[],
  seed = 3,
): Float32Array {
  const total = parts.reduce((sum, [, length]) => sum + Math.round(length * HOUSE_RATE), 0)
  const out = noise(total, seed)
  const { sin, PI } = Math
  let at = 0
  for (const [level, length] of parts) {
    const frames = Math.round(length * HOUSE_RATE)
    const factor = level === null ? 0 : toFactor(level)
    for (let i = 0; i < frames; i++) out[at + i]! *= factor * (0.35 + 0.65 * sin((PI * 4 * i) / HOUSE_RATE) ** 2)
    at += frames
  }
  return out
}

/** A chord that swells slowly, over a soft floor of noise. */
export function musicLike(length: Seconds, level: Decibels, seed = 5): Float32Array {
  const random = seededRandom(seed)
  const out = new Float32Array(Math.round(length * HOUSE_RATE))
  const { sin, PI } = Math
  const factor = toFactor(level) / 3
  for (let i = 0; i < out.length; i++) {
    const t = i / HOUSE_RATE
    const chord = sin(2 * PI * 220 * t) + sin(2 * PI * 277.2 * t) + sin(2 * PI * 329.6 * t)
    out[i] = factor * (chord * (0.8 + 0.2 * sin(2 * PI * 0.3 * t)) + 0.05 * (random() - 0.5))
  }
  return out
}

export function analyse(channels: Float32Array[]): Analysis {
  const analyser = createAnalyser(channels.length)
  analyser.push(channels)
  return analyser.finish()
}

/** Sounds in memory, as the renderer and the plan want them. */
export function soundBank(sounds: Record<string, Float32Array[]>) {
  const analyses = new Map(Object.entries(sounds).map(([media, channels]) => [media, analyse(channels)]))
  const source: SampleSource = async (media, from, frames) =>
    (sounds[media] ?? []).map((channel) => {
      const out = new Float32Array(frames)
      out.set(channel.subarray(Math.max(0, from), Math.max(0, from + frames)))
      return out
    })
  return { source, analysisOf: (media: string) => analyses.get(media) }
}

/** A mark at a place of a take, and at a word of its step's script where `character` says which. */
export const markAt = (
  id: string,
  step: string,
  media: string,
  at: Seconds,
  character: number | null = null,
): Mark => ({
  id,
  step,
  word: character === null ? null : { character, side: 'before' },
  place: { media, at },
  guessed: null,
})

/** One take cut over several slides at the given places, with a song from the first step on. */
export function lessonOver(cuts: readonly Seconds[], song = true): Lesson {
  const steps = cuts.slice(1).map((to, i) => ({
    ...newStep(`s${i}`, `Slide ${i + 1}`, newStill(DECK, i + 1)),
    passages: [{ id: `p${i}`, media: TAKE, from: cuts[i]!, to, pause: 0 }],
  }))
  return { ...emptyLesson('Test'), steps, bedCues: song ? [newBed('b', SONG, 's0')] : [] }
}
