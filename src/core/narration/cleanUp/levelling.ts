import { clamp, HOUSE_RATE, toFactor, type Decibels, type Seconds } from '@/core/units'

/** Level is taken over this time, and the gain never moves faster than this. */
const WINDOW: Seconds = 0.4
const HOP: Seconds = 0.05
const SLOPE = 12 // dB per second
const MOST: Decibels = 9
/** What is so far below the voice is no speech: the gain stays. */
const SPEECH_REACH: Decibels = 18

/**
 * Brings loud and soft sentences nearer to the voice's own level; `amount` 1 makes them alike. The gain runs straight
 * between points of 50 ms and follows the voice slowly, so that syllables keep their shape.
 */
export function evenOut(samples: Float32Array, voice: Decibels, amount: number): Float32Array {
  const hop = Math.round(HOP * HOUSE_RATE)
  const gain = gainCurve(levels(samples, hop), voice, amount)
  return samples.map((value, i) => {
    const place = i / hop
    const left = Math.floor(place)
    return value * toFactor(gain[left]! + (gain[left + 1]! - gain[left]!) * (place - left))
  })
}

/** Levels around each point; one more than there are hops. */
function levels(samples: Float32Array, hop: number): Float64Array {
  const powers = new Float64Array(Math.ceil(samples.length / hop) + 1)
  for (let i = 0; i < samples.length; i++) powers[Math.floor(i / hop)]! += samples[i]! ** 2 / hop
  const reach = Math.round(WINDOW / HOP / 2)
  return powers.map((_, h) => {
    let sum = 0
    let count = 0
    for (let j = Math.max(0, h - reach); j < Math.min(powers.length - 1, h + reach); j++, count++) sum += powers[j]!
    return 10 * Math.log10(sum / Math.max(1, count) + 1e-12)
  })
}

function gainCurve(level: Float64Array, voice: Decibels, amount: number): Float64Array {
  const speaks = (h: number) => level[h]! > voice - SPEECH_REACH
  const first = level.findIndex((_, h) => speaks(h))
  const wanted = (h: number) => clamp((voice - level[h]!) * amount, -MOST, MOST)
  const gain = new Float64Array(level.length)
  let now = first < 0 ? 0 : wanted(first)
  for (let h = 0; h < level.length; h++) {
    if (speaks(h)) now += clamp(wanted(h) - now, -SLOPE * HOP, SLOPE * HOP)
    gain[h] = now
  }
  // Backwards, too, so that the gain is there when a sentence begins.
  for (let h = level.length - 2; h >= 0; h--)
    gain[h] = clamp(gain[h]!, gain[h + 1]! - SLOPE * HOP, gain[h + 1]! + SLOPE * HOP)
  return gain
}
