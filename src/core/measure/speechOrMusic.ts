import { clamp } from '@/core/units'
import { analysisLength, type Analysis } from './analysis'
import { BAND_CENTRES, bandByteToDecibels } from './bands'
import { HOP } from './energyMeter'

/**
 * How much a sound is like somebody speaking (1) rather than music (0).
 *
 * Speech has a gap or a soft moment several times a second and real silences between phrases, and next to nothing
 * below 90 Hz; music seldom has any of these (low-energy ratio and spectral balance after Scheirer & Slaney,
 * ICASSP 1997).
 */
export function speechLikeness(analysis: Analysis): number {
  if (analysisLength(analysis) < 0.5) return 0.5
  const dips = clamp((lowEnergyShare(analysis) - 0.12) / 0.3, 0, 1)
  const pauses = clamp(pauseShare(analysis) / 0.12, 0, 1)
  const noBass = clamp((-bassLevel(analysis) - 4) / 14, 0, 1)
  return 0.4 * dips + 0.35 * pauses + 0.25 * noBass
}

/** Share of 10 ms hops with less than a tenth of the mean energy of the second around them. */
function lowEnergyShare({ energy }: Analysis): number {
  const reach = Math.round(0.5 / HOP)
  let low = 0
  let counted = 0
  let sum = 0
  for (let i = -reach; i < energy.length; i++) {
    sum += energy[i + reach] ?? 0
    sum -= energy[i - reach - 1] ?? 0
    if (i < 0 || sum < 1e-7) continue
    counted++
    if (energy[i]! < (0.1 * sum) / (2 * reach + 1)) low++
  }
  return counted > 0 ? low / counted : 0
}

/** Share of the time within pauses: at least 150 ms, 20 dB under the louder part of the sound. */
function pauseShare({ energy }: Analysis): number {
  const sorted = Float32Array.from(energy).sort()
  const threshold = sorted[Math.floor(sorted.length * 0.85)]! / 100
  const shortest = Math.round(0.15 / HOP)
  let inPauses = 0
  let run = 0
  for (let i = 0; i <= energy.length; i++) {
    if (i < energy.length && energy[i]! < threshold) run++
    else {
      if (run >= shortest) inPauses += run
      run = 0
    }
  }
  return energy.length > 0 ? inPauses / energy.length : 0
}

/** Level of the two lowest bands (63 and 80 Hz) less that of the bands from 300 Hz to 1 kHz, in dB. */
function bassLevel({ bands }: Analysis): number {
  const count = BAND_CENTRES.length
  const mean = new Float64Array(count)
  const rows = bands.length / count
  for (let r = 0; r < rows; r++) {
    for (let b = 0; b < count; b++) mean[b]! += 10 ** (bandByteToDecibels(bands[r * count + b]!) / 10) / rows
  }
  const power = (from: number, to: number) => mean.slice(from, to).reduce((sum, value) => sum + value, 1e-12)
  return 10 * Math.log10(power(0, 2) / power(7, 13))
}

/** The sounds that are narration, and those that are music. With several of each kind wanted, the measure decides. */
export function tellApart<T>(sounds: readonly { item: T; analysis: Analysis }[]): { voice: T[]; music: T[] } {
  const scored = sounds.map(({ item, analysis }) => ({ item, score: speechLikeness(analysis) }))
  const isVoice = ({ score }: { score: number }) => score >= VOICE_FROM
  // Of two sounds dropped together one is nearly always each: the difference says more than the figures.
  if (scored.length === 2 && scored.filter(isVoice).length !== 1) {
    const [voice, music] = [...scored].sort((a, b) => b.score - a.score)
    if (voice!.score - music!.score > CLEAR_DIFFERENCE) return { voice: [voice!.item], music: [music!.item] }
  }
  return {
    voice: scored.filter(isVoice).map(({ item }) => item),
    music: scored.filter((one) => !isVoice(one)).map(({ item }) => item),
  }
}

const VOICE_FROM = 0.5
const CLEAR_DIFFERENCE = 0.1
