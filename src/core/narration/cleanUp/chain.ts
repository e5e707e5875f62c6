import type { Hum } from '@/core/measure/hum'
import { HOUSE_RATE, type Decibels } from '@/core/units'
import { limitPlosives, limitSibilance } from './bandLimit'
import { bell, filtered, highPass, shelf } from './filters'
import { removeHum } from './hum'
import { evenOut } from './levelling'
import { repairClicks, repairClipping } from './repair'
import type { CleanUp } from './settings'
import { reduceNoise, type NoiseSpectrum } from './spectral'
import type { Suppressor } from './suppressor'

/** What is known of a take as a whole before any stretch of it is cleaned. */
export interface VoiceFacts {
  /** Level of its speech, as the root mean square of one channel, in dB below full scale. */
  level: Decibels
  /** The room's noise, where it could be measured. */
  room: NoiseSpectrum | null
  /** Of the mains, where it was found. */
  hum: Hum | null
}

/** Cleans a stretch of one channel; what comes out is as long, and every sample at its place. */
export function cleanVoice(
  samples: Float32Array,
  cleanUp: CleanUp,
  { level, room, hum }: VoiceFacts,
  suppress: Suppressor,
): Float32Array {
  const { noise, hiss, rumble, tone, sibilance, plosives, clicks, clipping, levelling } = cleanUp
  let out = samples
  if (clipping.on) out = repairClipping(out)
  if (clicks.on) out = repairClicks(out)
  if (rumble.on) out = cutRumble(out, rumble.below)
  if (plosives.on) out = limitPlosives(out, level)
  if (hiss.on && hum) out = removeHum(out, hum)
  if (hiss.on && room) out = reduceNoise(out, room, hiss.amount)
  if (noise.on) out = blended(out, suppress(out), noise.amount)
  if (tone.on) out = shapeTone(out, tone)
  if (sibilance.on) out = limitSibilance(out, level, sibilance.amount)
  if (levelling.on) out = evenOut(out, level, levelling.amount)
  return out
}

/** Butterworth, fourth order. */
function cutRumble(samples: Float32Array, below: number): Float32Array {
  return filtered(filtered(samples, highPass(HOUSE_RATE, below, 0.5412)), highPass(HOUSE_RATE, below, 1.3066))
}

function shapeTone(samples: Float32Array, { body, clearness, air }: CleanUp['tone']): Float32Array {
  let out = samples
  if (body !== 0) out = filtered(out, shelf(HOUSE_RATE, 160, body, 1))
  if (clearness !== 0) out = filtered(out, bell(HOUSE_RATE, 3000, clearness, 0.7))
  if (air !== 0) out = filtered(out, shelf(HOUSE_RATE, 9000, air, -1))
  return out
}

function blended(dry: Float32Array, wet: Float32Array, amount: number): Float32Array {
  const out = new Float32Array(dry.length)
  for (let i = 0; i < out.length; i++) out[i] = dry[i]! + (wet[i]! - dry[i]!) * amount
  return out
}

/** A take is cleaned in stretches of this length, so that its length does not matter. */
export const STRETCH = 30 * HOUSE_RATE
/**
 * Each stretch begins earlier, so that filters and suppressor have settled where it is used (the first one with its own
 * beginning, backwards),
 */
export const RUN_UP = 3 * HOUSE_RATE
/** and is blended into the one before over this length. */
export const BLEND = 0.05 * HOUSE_RATE

/**
 * Cleans one channel of a take of `length` samples. `read` gives samples from a place on (zeros outside the take);
 * `write` gets what is finished, in order.
 */
export async function cleanWhole(
  length: number,
  read: (from: number, frames: number) => Promise<Float32Array>,
  clean: (samples: Float32Array) => Float32Array,
  write: (samples: Float32Array) => Promise<void>,
): Promise<void> {
  let tail: Float32Array | null = null
  for (let from = 0; from < length; from += STRETCH) {
    const frames = Math.min(length - from, STRETCH + BLEND)
    const lead = from === 0 ? (await read(0, Math.min(length, RUN_UP))).reverse() : await read(from - RUN_UP, RUN_UP)
    const cleaned = clean(joined(lead, await read(from, frames))).subarray(lead.length)
    if (tail) for (let i = 0; i < tail.length; i++) cleaned[i] = tail[i]! + ((cleaned[i]! - tail[i]!) * i) / tail.length
    const done = Math.min(STRETCH, frames)
    await write(cleaned.slice(0, done))
    tail = cleaned.slice(done)
  }
}

function joined(first: Float32Array, second: Float32Array): Float32Array {
  const out = new Float32Array(first.length + second.length)
  out.set(first)
  out.set(second, first.length)
  return out
}
