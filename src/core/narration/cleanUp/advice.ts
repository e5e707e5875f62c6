import type { Analysis } from '@/core/measure/analysis'
import { BAND_CENTRES, BAND_HOP, bandByteToDecibels } from '@/core/measure/bands'
import { HOP } from '@/core/measure/energyMeter'
import type { Hum } from '@/core/measure/hum'
import { loudnessOf } from '@/core/measure/loudness'
import { quietStretches, roomNoise } from '@/core/measure/quiet'
import { takeLoudness, takeSpeech } from '@/core/measure/takeVoice'
import type { Decibels, Hertz, LoudnessUnits, Lufs, Seconds } from '@/core/units'
import type { CleanUpPart } from './settings'

/** What was measured in a take that speaks for or against a part of the clean-up; null where nothing tells. */
export interface CleanUpAdvice {
  measured: number | null
  advised: boolean
}

/** Further under the voice than this nobody hears a room. */
const ROOM_UNHEARD: Decibels = 45
/** Low tones are heard less than noise of their level. */
const HUM_UNHEARD: Decibels = 42
/** Noise of which more than this share lies above 4 kHz hisses. */
const HISSING = 0.4
/** What is below the voice is heard from so far under it on. */
const RUMBLE_UNHEARD: Decibels = 38
/** Loudest and softest sentences further apart than this make one reach for the volume. */
const EVEN: LoudnessUnits = 6
/** So much more than the rest of speech a sharp s has. */
const SHARP: Decibels = 2

/**
 * What a take needs, from its analysis alone: room noise, rumble and hiss from where nobody speaks, puffs, sharp s and
 * unevenness from where somebody does. `measured` is, in this order of parts: dB under the voice (noise, hiss, rumble), puffs
 * a minute, dB of s over the rest, clipped places, LU between loud and soft sentences. Clicks and tone are for the ear.
 */
export function adviseCleanUp(analysis: Analysis, hum: Hum | null = null): Record<CleanUpPart, CleanUpAdvice> {
  const [voice, room] = [takeLoudness(analysis), roomNoise(analysis)]
  const spoken = bandRows(
    analysis,
    takeSpeech(analysis).map(({ start, end }) => ({ from: start, to: end })),
  )
  const quiet = bandRows(analysis, quietStretches(analysis))
  const under = voice !== null && room !== null ? voice - room : null
  const rumble = lowUnderVoice(spoken, quiet)
  const puffs = puffsAMinute(spoken)
  const sharp = sharpness(spoken)
  const range = spreadOf(analysis)
  const clips = analysis.clips.length
  const isNoisy = under !== null && under < ROOM_UNHEARD
  return {
    noise: { measured: under, advised: isNoisy },
    hiss: { measured: under, advised: (isNoisy && hissShare(quiet) > HISSING) || isHeard(hum, voice) },
    rumble: { measured: rumble, advised: rumble !== null && rumble < RUMBLE_UNHEARD },
    plosives: { measured: puffs, advised: puffs !== null && puffs > 1 },
    sibilance: { measured: sharp, advised: sharp !== null && sharp > SHARP },
    clicks: { measured: null, advised: false },
    clipping: { measured: clips, advised: clips > 0 },
    levelling: { measured: range, advised: range !== null && range > EVEN },
    tone: { measured: null, advised: false },
  }
}

/** Whether hum is near enough to a voice to be heard beside it. */
export const isHeard = (hum: Hum | null, voice: Lufs | null): boolean =>
  hum !== null && voice !== null && voice - hum.level < HUM_UNHEARD

/** Power of each third-octave band per 100 ms. */
type BandRow = number[]

function bandRows({ bands }: Analysis, stretches: readonly { from: Seconds; to: Seconds }[]): BandRow[] {
  const count = BAND_CENTRES.length
  return stretches.flatMap(({ from, to }) => {
    const rows: BandRow[] = []
    // Only hops that lie in the stretch as a whole.
    for (let hop = Math.ceil(from / BAND_HOP); (hop + 1) * BAND_HOP <= to + 1e-6; hop++) {
      const row = bands.subarray(hop * count, (hop + 1) * count)
      if (row.length === count) rows.push(Array.from(row, (byte) => 10 ** (bandByteToDecibels(byte) / 10)))
    }
    return rows
  })
}

const powerIn = (row: BandRow, from: Hertz, to: Hertz): number =>
  row.reduce((sum, power, i) => (BAND_CENTRES[i]! >= from && BAND_CENTRES[i]! < to ? sum + power : sum), 0)

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length
const decibels = (ratio: number): Decibels => 10 * Math.log10(ratio)

function hissShare(quiet: readonly BandRow[]): number {
  if (quiet.length === 0) return 0
  const all = mean(quiet.map((row) => powerIn(row, 0, Infinity)))
  return all > 0 ? mean(quiet.map((row) => powerIn(row, 4000, Infinity))) / all : 0
}

/** How far what is below 90 Hz where nobody speaks lies under the voice. */
function lowUnderVoice(spoken: readonly BandRow[], quiet: readonly BandRow[]): Decibels | null {
  if (spoken.length === 0 || quiet.length === 0) return null
  const low = mean(quiet.map((row) => powerIn(row, 0, 90)))
  const voice = mean(spoken.map((row) => powerIn(row, 90, 8000)))
  return low > 0 && voice > 0 ? decibels(voice / low) : null
}

/** Breath on the microphone: for a moment there is more below 90 Hz than in all of the voice. */
function puffsAMinute(spoken: readonly BandRow[]): number | null {
  if (spoken.length === 0) return null
  const puffs = spoken.filter((row) => powerIn(row, 0, 90) > powerIn(row, 90, 8000)).length
  return puffs / ((spoken.length * BAND_HOP) / 60)
}

/** The loudest twentieth of what lies from 5 to 10 kHz, over the mean from 1 to 4 kHz. */
function sharpness(spoken: readonly BandRow[]): Decibels | null {
  if (spoken.length === 0) return null
  const sharp = spoken.map((row) => powerIn(row, 5000, 10_000)).sort((a, b) => b - a)
  const loudest = sharp[Math.floor(sharp.length / 20)]!
  const clear = mean(spoken.map((row) => powerIn(row, 1000, 4000)))
  return loudest > 0 && clear > 0 ? decibels(loudest / clear) : null
}

/** Between loud and soft stretches of speech: the 90th and the 10th percentile. */
function spreadOf(analysis: Analysis): LoudnessUnits | null {
  const levels = takeSpeech(analysis)
    .filter(({ start, end }) => end - start >= 0.4)
    .map(({ start, end }) => {
      const part = analysis.energy.subarray(Math.round(start / HOP), Math.round(end / HOP))
      return loudnessOf(mean(Array.from(part)))
    })
    .sort((a, b) => a - b)
  if (levels.length < 3) return null
  return levels[Math.floor(levels.length * 0.9)]! - levels[Math.floor(levels.length * 0.1)]!
}
