import { HOUSE_RATE, type Decibels, type Hertz, type SampleIndex, type Seconds } from '@/core/units'

/** Hum of the mains in a recording: a steady tone and some of its multiples. */
export interface Hum {
  /** The mains' frequency as the recording has it, to some hundredths. */
  at: Hertz
  /** Which multiples of it are heard; 1 is itself. */
  multiples: number[]
  /** All of them together: root mean square in dB below full scale. */
  level: Decibels
}

/** A stretch in which nobody speaks. */
export interface Pause {
  from: SampleIndex
  samples: Float32Array
}

interface Stretch {
  from: Seconds
  to: Seconds
}

const MAINS: readonly Hertz[] = [50, 60]
const MOST_MULTIPLES = 10
/** Nothing here is higher than some hundred Hz: so many samples are taken together. */
const TOGETHER = 16
const RATE: Hertz = HOUSE_RATE / TOGETHER
/** Long enough to tell 50 Hz from 60, short enough for a pause. */
const BLOCK = Math.round(0.24 * RATE)
const FEWEST_BLOCKS = 6
/** Over longer than this the mains wander. */
const STEADY_FOR: Seconds = 20
/** How far recorders and mains are off, and how finely that is looked for. */
const OFF: Hertz = 0.5
const FINE: Hertz = 0.01
/** Beside a tone there is so much less. */
const BESIDE: Hertz = 15
const STANDS_OUT: Decibels = 8
/** Share of its power that keeps its phase through the pauses. */
const COHERENT = 0.6
/** Softer than this nobody hears it. */
const LEAST: Decibels = -75

/** What lies in those 20 s in which nobody speaks for longest. */
export function togetherLongest(stretches: readonly Stretch[]): Stretch[] {
  const within = (start: Seconds) =>
    stretches
      .map(({ from, to }) => ({ from: Math.max(from, start), to: Math.min(to, start + STEADY_FOR) }))
      .filter(({ from, to }) => to > from)
  const lengthOf = (some: readonly Stretch[]) => some.reduce((sum, { from, to }) => sum + to - from, 0)
  return stretches
    .map(({ from }) => within(from))
    .reduce((longest, some) => (lengthOf(some) > lengthOf(longest) ? some : longest), [])
}

/**
 * Hum in the pauses of a voice, or null: tones at the mains' multiples that stand out from what is beside them and keep their
 * phase from pause to pause, as nothing else there does. Each block is a phasor for each multiple; the frequency is the one
 * by which the phasors turn into line. Over longer than `togetherLongest` gives they do not: the mains wander.
 */
export function findHum(pauses: readonly Pause[]): Hum | null {
  const blocks = pauses.map(coarser).flatMap(blocksOf)
  if (blocks.length < FEWEST_BLOCKS) return null
  const found = MAINS.map((mains) => humAt(blocks, mains)).filter((hum) => hum !== null)
  return found.sort((a, b) => b.level - a.level)[0] ?? null
}

/** The same at RATE, places included. */
function coarser({ from, samples }: Pause): Pause {
  const skipped = (TOGETHER - (from % TOGETHER)) % TOGETHER
  const out = new Float32Array(Math.max(0, Math.floor((samples.length - skipped) / TOGETHER)))
  for (let i = 0; i < out.length; i++) {
    let sum = 0
    for (let j = 0; j < TOGETHER; j++) sum += samples[skipped + i * TOGETHER + j]!
    out[i] = sum / TOGETHER
  }
  return { from: (from + skipped) / TOGETHER, samples: out }
}

const blocksOf = ({ from, samples }: Pause): Pause[] =>
  Array.from({ length: Math.max(0, Math.floor((2 * samples.length) / BLOCK) - 1) }, (_, i) => ({
    from: from + (i * BLOCK) / 2,
    samples: samples.subarray((i * BLOCK) / 2, (i * BLOCK) / 2 + BLOCK),
  }))

function humAt(blocks: readonly Pause[], mains: Hertz): Hum | null {
  const multiples = Array.from({ length: MOST_MULTIPLES }, (_, i) => i + 1)
  const standing = multiples.filter((k) => {
    const beside = (power(blocks, k * mains - BESIDE) + power(blocks, k * mains + BESIDE)) / 2
    return 10 * Math.log10(power(blocks, k * mains) / Math.max(beside, 1e-30)) > STANDS_OUT
  })
  if (standing.length === 0) return null
  const phasors = standing.map((k) => ({ k, all: blocks.map((block) => phasorOf(block, k * mains)) }))
  const off = bestOffset(phasors, blocks)
  // A tone further off is no mains.
  if (Math.abs(off) > OFF - FINE) return null
  const steady = phasors.filter(({ k, all }) => {
    const alone = all.reduce((sum, [re, im]) => sum + re * re + im * im, 0)
    return inLine(all, blocks, k * off) > COHERENT * alone * all.length
  })
  // One tone alone may be a fan; the mains have multiples, or hum at their own frequency.
  if (steady.length < 2 && !steady.some(({ k }) => k <= 2)) return null
  const level = 10 * Math.log10(steady.reduce((sum, { k }) => sum + power(blocks, k * (mains + off)), 0))
  return level < LEAST ? null : { at: mains + off, multiples: steady.map(({ k }) => k), level }
}

type Phasor = readonly [re: number, im: number]

function bestOffset(phasors: readonly { k: number; all: readonly Phasor[] }[], blocks: readonly Pause[]): Hertz {
  let best = { off: 0, power: -1 }
  for (let step = -OFF / FINE; step <= OFF / FINE; step++) {
    const off = step * FINE
    const power = phasors.reduce((sum, { k, all }) => sum + inLine(all, blocks, k * off), 0)
    if (power > best.power) best = { off, power }
  }
  return best.off
}

/** Power of the sum of phasors that are turned back by what a tone so much higher has turned until then. */
function inLine(all: readonly Phasor[], blocks: readonly Pause[], higher: Hertz): number {
  let [re, im] = [0, 0]
  all.forEach(([a, b], i) => {
    const angle = (-2 * Math.PI * higher * blocks[i]!.from) / RATE
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    re += a * c - b * s
    im += a * s + b * c
  })
  return re * re + im * im
}

/** Mean square of a tone of this frequency in the blocks. */
function power(blocks: readonly Pause[], frequency: Hertz): number {
  return (
    blocks.reduce((sum, block) => {
      const [re, im] = phasorOf(block, frequency)
      return sum + (re * re + im * im) / 2
    }, 0) / blocks.length
  )
}

const WINDOW = Float32Array.from({ length: BLOCK }, (_, i) => (1 - Math.cos((2 * Math.PI * (i + 0.5)) / BLOCK)) / BLOCK)

/** Amplitude and phase of a tone, the phase as if it had begun with the recording. */
function phasorOf({ from, samples }: Pause, frequency: Hertz): Phasor {
  const step = (2 * Math.PI * frequency) / RATE
  let re = 0
  let im = 0
  for (let i = 0; i < samples.length; i++) {
    const value = samples[i]! * WINDOW[i]! * 2
    re += value * Math.cos(step * (from + i))
    im -= value * Math.sin(step * (from + i))
  }
  return [re, im]
}
