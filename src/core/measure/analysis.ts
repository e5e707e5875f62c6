import { HOUSE_RATE, type SampleIndex, type Seconds } from '@/core/units'
import { BAND_CENTRES, BAND_HOP, createBandMeter } from './bands'
import { createEnergyMeter, HOP, type LoudnessTrack } from './energyMeter'

/** What is kept of a sound in order to draw it and to decide levels without going back to its samples. */
export interface Analysis {
  samples: SampleIndex
  channels: number
  /** K-weighted energy per 10 ms as it stands in a stereo mix: a mono sound plays from both sides. */
  energy: LoudnessTrack
  /** Waveform: lowest and highest sample per 10 ms, in 1/127 of full scale, alternating. */
  wave: Int8Array
  /** Third-octave levels per 100 ms (see bands.ts). */
  bands: Uint8Array
  /** Hops in which peaks are clipped. */
  clips: Uint32Array
}

export interface Analyser {
  /** One or two channels at the house rate. */
  push(channels: readonly Float32Array[]): void
  finish(): Analysis
}

const HOP_SAMPLES = HOUSE_RATE * HOP

export function createAnalyser(channelCount: number): Analyser {
  const energy = createEnergyMeter(HOUSE_RATE, channelCount)
  const bands = createBandMeter()
  const wave: number[] = []
  const clips: number[] = []
  const runs = Array.from({ length: channelCount }, () => ({ value: 0, length: 0 }))
  let samples = 0
  let low = 0
  let high = 0
  return {
    push(channels) {
      energy.push(channels)
      bands.push(channels)
      const length = channels[0]?.length ?? 0
      for (let at = 0; at < length;) {
        const end = Math.min(length, at + HOP_SAMPLES - (samples % HOP_SAMPLES))
        for (const channel of channels) {
          for (let i = at; i < end; i++) {
            const value = channel[i]!
            if (value < low) low = value
            else if (value > high) high = value
          }
        }
        const hop = Math.floor(samples / HOP_SAMPLES)
        if ((high >= LOWEST_CLIP || low <= -LOWEST_CLIP) && isClipped(channels, at, end, runs) && clips.at(-1) !== hop)
          clips.push(hop)
        samples += end - at
        at = end
        if (samples % HOP_SAMPLES !== 0) continue
        wave.push(toByte(low), toByte(high))
        low = 0
        high = 0
      }
    },
    finish() {
      const track = energy.track()
      if (channelCount === 1) track.forEach((value, i) => (track[i] = value * 2))
      return {
        samples,
        channels: channelCount,
        energy: track,
        wave: Int8Array.from(wave),
        bands: bands.rows(),
        clips: Uint32Array.from(clips),
      }
    },
  }
}

/** Flat tops of at least so many samples at this level or above are clipped peaks. */
const LOWEST_CLIP = 0.5
const FLAT = 1e-4
const SHORTEST_CLIP = 4

/** Whether a flat top ends or goes on between two samples; `runs` carries what is flat from one piece to the next. */
function isClipped(
  channels: readonly Float32Array[],
  from: number,
  to: number,
  runs: { value: number; length: number }[],
): boolean {
  let found = false
  channels.forEach((channel, c) => {
    const run = runs[c]!
    for (let i = from; i < to; i++) {
      const value = channel[i]!
      const isFlat = Math.abs(value - run.value) < FLAT && Math.abs(value) >= LOWEST_CLIP
      run.length = isFlat ? run.length + 1 : 1
      run.value = value
      if (run.length >= SHORTEST_CLIP) found = true
    }
  })
  return found
}

/** A part of a sound as if it were a sound of its own; cut at whole tenths of a second. The same part is the same object. */
export function partOfAnalysis(whole: Analysis, from: Seconds, to: Seconds): Analysis {
  const parts = partsOf.get(whole) ?? new Map<string, Analysis>()
  partsOf.set(whole, parts)
  const key = `${from} ${to}`
  let part = parts.get(key)
  if (!part) parts.set(key, (part = cutOut(whole, Math.round(from / BAND_HOP), Math.round(to / BAND_HOP))))
  return part
}

const partsOf = new WeakMap<Analysis, Map<string, Analysis>>()

function cutOut(whole: Analysis, first: number, last: number): Analysis {
  const hops = Math.round(BAND_HOP / HOP)
  const [from, to] = [first * hops, last * hops]
  return {
    ...whole,
    samples: Math.max(0, Math.min(whole.samples, to * HOP_SAMPLES) - from * HOP_SAMPLES),
    energy: whole.energy.subarray(from, to),
    wave: whole.wave.subarray(2 * from, 2 * to),
    bands: whole.bands.subarray(first * BAND_CENTRES.length, last * BAND_CENTRES.length),
    clips: whole.clips.filter((hop) => hop >= from && hop < to).map((hop) => hop - from),
  }
}

export const analysisLength = (analysis: Analysis): Seconds => analysis.samples / HOUSE_RATE

const toByte = (value: number) => Math.max(-127, Math.min(127, Math.round(value * 127)))
