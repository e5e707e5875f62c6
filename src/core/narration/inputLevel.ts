import { createEnergyMeter } from '@/core/measure/energyMeter'
import { loudnessOf } from '@/core/measure/loudness'
import { toDecibels, type Decibels, type Hertz, type Lufs } from '@/core/units'

/** A microphone's level while one speaks, and what to do about it. */
export interface InputLevel {
  /** Loudness of the last 400 ms. */
  now: Lufs
  /** Highest sample so far, in dB below full scale. */
  peak: Decibels
  /** Stretches of clipped samples so far. */
  clipped: number
  verdict: InputVerdict
}
export type InputVerdict = 'silent' | 'too quiet' | 'good' | 'too loud' | 'clipped'

/** Speech within these limits leaves room above and keeps noise below. */
export const GOOD_LEVEL = { low: -38, high: -16 } as const
const HIGHEST_PEAK: Decibels = -3
const SILENCE: Lufs = -60
const FULL = 0.985
/** The verdict is about the loudest half second of the last seconds, because people pause. */
const MEMORY = 300 // hops of 10 ms
const MOMENT = 40

export interface InputMeter {
  push(samples: Float32Array): void
  read(): InputLevel
  /** Begins to count anew. */
  reset(): void
}

/** Measures as the voice will be measured in the mix: K-weighted, a mono sound from both sides. */
export function createInputMeter(rate: Hertz): InputMeter {
  const energy = createEnergyMeter(rate, 1)
  let from = 0
  let highest = 0
  let clipped = 0
  let run = 0
  return {
    push(samples) {
      energy.push([samples])
      for (const value of samples) {
        const level = Math.abs(value)
        if (level > highest) highest = level
        run = level >= FULL ? run + 1 : 0
        if (run === 3) clipped++
      }
    },
    read() {
      const track = energy.track()
      const moments = Array.from({ length: MEMORY / MOMENT }, (_, i) => {
        const to = track.length - i * MOMENT
        return to - MOMENT >= from ? meanLoudness(track, to - MOMENT, to) : -Infinity
      })
      const loudest = Math.max(...moments)
      const peak = toDecibels(highest)
      return {
        now: meanLoudness(track, Math.max(from, track.length - MOMENT), track.length),
        peak,
        clipped,
        verdict: verdictOn(loudest, peak, clipped),
      }
    },
    reset() {
      from = energy.track().length
      highest = 0
      clipped = 0
      run = 0
    },
  }
}

function verdictOn(loudness: Lufs, peak: Decibels, clipped: number): InputVerdict {
  if (clipped > 0) return 'clipped'
  if (loudness < SILENCE) return 'silent'
  if (loudness > GOOD_LEVEL.high || peak > HIGHEST_PEAK) return 'too loud'
  return loudness < GOOD_LEVEL.low ? 'too quiet' : 'good'
}

function meanLoudness(track: Float32Array, from: number, to: number): Lufs {
  let sum = 0
  for (let i = from; i < to; i++) sum += track[i]!
  return to > from && sum > 0 ? loudnessOf((2 * sum) / (to - from)) : -Infinity
}

export type RoomVerdict = 'quiet' | 'usable' | 'noisy'
/** What a room's noise means for a voice of good level. */
export const roomVerdict = (noise: Lufs): RoomVerdict => (noise < -60 ? 'quiet' : noise < -48 ? 'usable' : 'noisy')
