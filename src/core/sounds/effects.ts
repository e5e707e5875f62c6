import { seededRandom } from '@/core/random'
import { say } from '@/messages/say'
import type { Messages } from '@/messages/words'
import { HOUSE_RATE, toFactor, type Decibels, type Hertz, type Seconds } from '@/core/units'

/** A test runner looks globals up slowly; these loops run millions of times. */
const { sin, exp, min, max, abs, PI } = Math

/** Effects and stingers of our own, made by formula: no recording, so no licence but ours. */
export interface Effect {
  id: EffectId
  length: Seconds
  make(): Float32Array
}

export type EffectId = keyof Messages['effects']

export const EFFECTS_LICENCE = { source: 'Made by Yarn Step', licence: 'CC0 1.0', credit: '' }
/** Highest sample of every effect. */
const PEAK: Decibels = -6

const effect = (id: EffectId, length: Seconds, draw: (out: Float32Array, random: () => number) => void): Effect => ({
  id,
  length,
  make() {
    const out = new Float32Array(Math.round(length * HOUSE_RATE))
    draw(out, seededRandom(id.length * 977 + id.charCodeAt(0)))
    return finished(out)
  },
})

export const EFFECTS: readonly Effect[] = [
  effect('bell', 2.6, (out) => partials(out, 0, [760, 1520 * 1.19, 2280 * 1.09, 3920], [1, 0.6, 0.4, 0.25], 0.9)),
  effect('two-bells', 2.8, (out) => {
    partials(out, 0, [760, 1809, 2485, 3920], [1, 0.6, 0.4, 0.25], 0.8)
    partials(out, 0.34, [760, 1809, 2485, 3920], [0.9, 0.5, 0.4, 0.2], 0.9)
  }),
  effect('chime', 1.8, (out) => {
    partials(out, 0, [1046.5, 2093], [1, 0.3], 0.5)
    partials(out, 0.12, [1318.5, 2637], [0.8, 0.25], 0.6)
  }),
  effect('right', 1.1, (out) => {
    partials(out, 0, [659.3, 1318.5], [1, 0.3], 0.25)
    partials(out, 0.14, [987.8, 1975.5], [1, 0.3], 0.4)
  }),
  effect('wrong', 0.9, (out) => {
    partials(out, 0, [311.1, 622.3, 933], [1, 0.5, 0.3], 0.22)
    partials(out, 0.16, [233.1, 466.2, 699], [1, 0.5, 0.3], 0.35)
  }),
  effect('click', 0.09, (out, random) => {
    burst(out, random, 0, 0.004, 0.002)
    partials(out, 0, [2400], [0.4], 0.008)
  }),
  effect('tick', 0.12, (out) => partials(out, 0, [1900, 3100], [1, 0.5], 0.015)),
  effect('pop', 0.18, (out) => glide(out, 0, 0.12, 320, 880, 0.9)),
  effect('whoosh', 0.9, (out, random) => sweep(out, random, 300, 2800)),
  effect('page', 0.5, (out, random) => {
    sweep(out.subarray(0, Math.round(0.32 * HOUSE_RATE)), random, 1800, 5200)
    burst(out, random, 0.33, 0.02, 0.012)
  }),
  effect('knock', 0.35, (out, random) => {
    partials(out, 0, [190, 410, 720], [1, 0.5, 0.3], 0.05)
    burst(out, random, 0, 0.006, 0.003)
  }),
  effect('rope', 1.2, (out, random) => creak(out, random)),
  effect('wave', 3.2, (out, random) => wash(out, random)),
  effect('horn', 2.4, (out) => horn(out)),
  effect('stinger-open', 2.6, (out) =>
    [
      [0, 293.7],
      [0.12, 440],
      [0.24, 587.3],
      [0.36, 740],
    ].forEach(([at, tone]) => partials(out, at!, [tone!, tone! * 2, tone! * 3], [1, 0.4, 0.15], 1)),
  ),
  effect('stinger-close', 2.8, (out) =>
    [
      [0, 740],
      [0.16, 587.3],
      [0.32, 440],
      [0.48, 293.7],
      [0.48, 146.8],
    ].forEach(([at, tone]) => partials(out, at!, [tone!, tone! * 2, tone! * 3], [1, 0.4, 0.15], 1.1)),
  ),
]

/** Tones that ring out; `decay` is the time to a third of the amplitude. */
function partials(out: Float32Array, at: Seconds, tones: Hertz[], levels: number[], decay: Seconds): void {
  const first = Math.round(at * HOUSE_RATE)
  tones.forEach((tone, p) => {
    const fall = exp(-(1 + 0.35 * p) / (decay * HOUSE_RATE))
    let level = levels[p]!
    for (let i = first; i < out.length; i++) {
      const time = (i - first) / HOUSE_RATE
      out[i]! += level * min(1, time / 0.002) * sin(2 * PI * tone * time)
      level *= fall
    }
  })
}

/** A burst of noise with a decay. */
function burst(out: Float32Array, random: () => number, at: Seconds, length: Seconds, decay: Seconds): void {
  const first = Math.round(at * HOUSE_RATE)
  for (let i = first; i < min(out.length, first + length * 6 * HOUSE_RATE); i++)
    out[i]! += (random() * 2 - 1) * exp(-(i - first) / (decay * HOUSE_RATE))
}

/** A tone that glides up or down. */
function glide(out: Float32Array, at: Seconds, length: Seconds, from: Hertz, to: Hertz, level: number): void {
  let phase = 0
  const first = Math.round(at * HOUSE_RATE)
  const count = Math.round(length * HOUSE_RATE)
  for (let i = 0; i < count && first + i < out.length; i++) {
    const share = i / count
    phase += (2 * PI * from * (to / from) ** share) / HOUSE_RATE
    out[first + i]! += level * sin(PI * share) * sin(phase)
  }
}

/** Noise through a band that moves up; it swells and goes. */
function sweep(out: Float32Array, random: () => number, from: Hertz, to: Hertz): void {
  let [low, band] = [0, 0]
  for (let i = 0; i < out.length; i++) {
    const share = i / out.length
    const f = 2 * sin((PI * from * (to / from) ** share) / HOUSE_RATE)
    low += f * band
    band += f * (random() * 2 - 1 - low - 0.5 * band)
    out[i]! += band * sin(PI * share) ** 1.5
  }
}

/** Little strokes that follow each other faster and slower, through a wooden body. */
function creak(out: Float32Array, random: () => number): void {
  for (let time = 0.02; time < out.length / HOUSE_RATE - 0.05;) {
    partials(
      out.subarray(0, min(out.length, Math.round((time + 0.03) * HOUSE_RATE))),
      time,
      [520, 1130, 1740],
      [0.5, 0.35, 0.2],
      0.006,
    )
    time += 0.012 + 0.02 * random() * (1 + sin(time * 5))
  }
  for (let i = 0; i < out.length; i++) out[i]! *= sin((PI * i) / out.length)
}

/** Filtered noise that comes in slowly and runs out. */
function wash(out: Float32Array, random: () => number): void {
  let [a, b] = [0, 0]
  for (let i = 0; i < out.length; i++) {
    const share = i / out.length
    const open = 0.03 + 0.12 * sin(PI * share) ** 2
    a += open * (random() * 2 - 1 - a)
    b += open * (a - b)
    out[i]! += b * (share < 0.35 ? share / 0.35 : ((1 - share) / 0.65) ** 1.6)
  }
}

function horn(out: Float32Array): void {
  for (let i = 0; i < out.length; i++) {
    const time = i / HOUSE_RATE
    const envelope = min(1, time / 0.25, (out.length / HOUSE_RATE - time) / 0.5)
    for (let k = 1; k <= 9; k++) out[i]! += (envelope / k ** 1.2) * sin(2 * PI * 118 * k * time + 0.3 * k)
  }
}

/** Brought to its level, and ended without a click. */
function finished(out: Float32Array): Float32Array {
  const loudest = out.reduce((most, value) => max(most, abs(value)), 1e-9)
  const factor = toFactor(PEAK) / loudest
  const fade = min(out.length / 4, 0.05 * HOUSE_RATE)
  return out.map((value, i) => value * factor * min(1, (out.length - 1 - i) / fade))
}

/** Effects that have all the words one looks for, in their name or about them. */
export function findEffects(phrase: string): Effect[] {
  const wanted = phrase.toLowerCase().split(/\s+/).filter(Boolean)
  return EFFECTS.filter(({ id }) => {
    const own = `${say(`effects.${id}`)} ${say(`effectWords.${id}`)}`.toLowerCase()
    return wanted.every((word) => own.includes(word))
  })
}
