import { clamp, type Decibels, type Seconds } from '@/core/units'
import { HOP, type LoudnessTrack } from './energyMeter'
import { integratedLoudness, loudnessOf } from './loudness'

/** A stretch in which somebody speaks. */
export interface SpeechSegment {
  start: Seconds
  end: Seconds
}

/** The floor is never taken lower under the level than this: digital silence says nothing about a voice. */
const WIDEST_RANGE: Decibels = 45
/** Less difference than this between loud and quiet means there are no pauses to be found. */
const NARROWEST_RANGE: Decibels = 9
const SILENCE: Decibels = -60

const hops = (time: Seconds) => Math.round(time / HOP)

/**
 * Where somebody speaks, from the 10 ms energies of a voice recording.
 *
 * Floor and level are the 7th and 90th percentile of a window sliding along. A stretch counts as speech where
 * the level passes 42 % of the range between the two (audible breaths stay below), and is extended by up to
 * 70 ms before and 140 ms after while above 22 %. Gaps under 120 ms are closed; what is shorter than 80 ms is a click.
 */
export function speechSegments(track: LoudnessTrack): SpeechSegment[] {
  const loudness = integratedLoudness(track)
  if (loudness === null || loudness < SILENCE) return []
  const level = smoothed(track)
  const { floor, top } = slidingPercentiles(level)
  const share = (i: number) => (level[i]! - floor[i]!) / (top[i]! - floor[i]!)
  const speaking = (i: number, threshold: number) => top[i]! > SILENCE && share(i) > threshold

  const segments: { from: number; to: number }[] = []
  for (let i = 0; i < level.length; i++) {
    if (!speaking(i, 0.42)) continue
    let to = i
    while (to < level.length && speaking(to, 0.42)) to++
    let from = i
    while (from > 0 && i - from < hops(0.07) && speaking(from - 1, 0.22)) from--
    const core = to
    while (to < level.length && to - core < hops(0.14) && speaking(to, 0.22)) to++
    const last = segments.at(-1)
    if (last && from - last.to < hops(0.12)) last.to = to
    else segments.push({ from, to })
    i = to - 1
  }
  return segments
    .filter(({ from, to }) => to - from >= hops(0.08))
    .map(({ from, to }) => ({ start: from * HOP, end: to * HOP }))
}

/** Joins segments whose gap is shorter than `pause`: what is left are phrases. */
export function joinSegments(segments: readonly SpeechSegment[], pause: Seconds): SpeechSegment[] {
  const joined: SpeechSegment[] = []
  for (const segment of segments) {
    const last = joined.at(-1)
    if (last && segment.start - last.end < pause) last.end = Math.max(last.end, segment.end)
    else joined.push({ ...segment })
  }
  return joined
}

/** Stretches in order, those that touch or overlap made one. */
export function mergeSegments(segments: readonly SpeechSegment[]): SpeechSegment[] {
  const merged: SpeechSegment[] = []
  for (const segment of [...segments].sort((a, b) => a.start - b.start)) {
    const last = merged.at(-1)
    if (last && segment.start <= last.end) last.end = Math.max(last.end, segment.end)
    else merged.push({ ...segment })
  }
  return merged
}

export const spokenTime = (segments: readonly SpeechSegment[]): Seconds =>
  segments.reduce((sum, { start, end }) => sum + end - start, 0)

/** Level in dB per hop, over three hops, so that single glottal pulses don't show. */
function smoothed(track: LoudnessTrack): Float32Array {
  return Float32Array.from(track, (value, i) => {
    const energy = ((track[i - 1] ?? value) + value + (track[i + 1] ?? value)) / 3
    return energy > 0 ? Math.max(-100, loudnessOf(energy)) : -100
  })
}

/** 7th and 90th percentile of the surrounding 30 s, found once a second from a histogram in steps of half a dB. */
function slidingPercentiles(level: Float32Array): { floor: Float32Array; top: Float32Array } {
  const reach = hops(15)
  const step = hops(1)
  const bin = (value: number) => clamp(Math.round((value + 100) * 2), 0, 239)
  const histogram = new Uint32Array(240)
  const floor = new Float32Array(level.length)
  const top = new Float32Array(level.length)
  let from = 0
  let to = 0
  for (let start = 0; start < level.length; start += step) {
    const centre = start + step / 2
    while (to < Math.min(level.length, centre + reach)) histogram[bin(level[to++]!)]!++
    while (from < centre - reach) histogram[bin(level[from++]!)]!--
    const high = percentile(histogram, to - from, 0.9)
    const low = percentile(histogram, to - from, 0.07)
    const range = clamp(high - low, NARROWEST_RANGE, WIDEST_RANGE)
    floor.fill(high - range, start, start + step)
    top.fill(high, start, start + step)
  }
  return { floor, top }
}

function percentile(histogram: Uint32Array, count: number, share: number): Decibels {
  let seen = 0
  for (let b = 0; b < histogram.length; b++) {
    seen += histogram[b]!
    if (seen > count * share) return b / 2 - 100
  }
  return 0
}
