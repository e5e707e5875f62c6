import { levelToVoice, spokenLoudness, takeSpeech } from '@/core/measure/takeVoice'
import { chooseDips, meanSpectrum, pocketPower, type PocketPlan, type Spectrum } from '@/core/bed/pocket'
import { whileSpoken } from '@/core/bed/whileSpoken'
import { RIDE_RATE } from '@/core/bed/ride'
import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import { BAND_CENTRES, BAND_HOP, bandByteToDecibels } from '@/core/measure/bands'
import { HOP, type LoudnessTrack } from '@/core/measure/energyMeter'
import { kWeightingPower } from '@/core/measure/kWeighting'
import { integratedLoudness } from '@/core/measure/loudness'
import type { SpeechSegment } from '@/core/measure/speech'
import { HOUSE_RATE, toSamples, type Decibels } from '@/core/units'
import type { Clip } from './clip'
import type { AnalysisOf } from './mixPlan'
import { nearerUnder } from './nearer'

/** The pocket for this lesson's voice and music; null where the music leaves the voice clear already, or one is missing. */
export function planPocket(
  lesson: Lesson,
  timeline: Timeline,
  bed: readonly Clip[],
  voice: LoudnessTrack,
  bedRaw: LoudnessTrack,
  speech: readonly SpeechSegment[],
  analysisOf: AnalysisOf,
): PocketPlan | null {
  const spectra = voiceSpectra(timeline, analysisOf)
  const voiceLevel = spokenLoudness(voice, speech)
  const bedLevel = integratedLoudness(bedRaw)
  const bedMean = bedSpectrum(bed, analysisOf)
  if (!spectra || !bedMean || voiceLevel === null || bedLevel === null) return null
  const ridden = voiceLevel - nearerUnder(lesson.targets.clearance, lesson.pocket) - bedLevel
  const dips = chooseDips(
    spectra.voice,
    spectra.floor,
    bedMean.map((level) => level + ridden),
    lesson.pocket,
  )
  if (dips.length === 0) return null
  const cells = Math.ceil(bedRaw.length * HOP * RIDE_RATE) + 1
  return { dips, amount: whileSpoken(speech, lesson.targets.pauseFrom, cells) }
}

/** Mean spectra of what speaks in the lesson and of its rooms, at the level they have in the mix. */
export function voiceSpectra(timeline: Timeline, analysisOf: AnalysisOf): { voice: Spectrum; floor: Spectrum } | null {
  const spoken: Spectrum[] = []
  const quiet: Spectrum[] = []
  for (const media of new Set(timeline.passages.map(({ sound }) => sound))) {
    const analysis = analysisOf(media)
    if (!analysis) continue
    const gain = levelToVoice(analysis)
    const speech = takeSpeech(analysis)
    const speaks = (time: number) => speech.some(({ start, end }) => time >= start && time < end)
    const voice = meanSpectrum(analysis.bands, speaks)
    const floor = meanSpectrum(analysis.bands, (time) => !speaks(time))
    if (voice) spoken.push(voice.map((level) => level + gain))
    if (floor) quiet.push(floor.map((level) => level + gain))
  }
  if (spoken.length === 0) return null
  return {
    voice: meanOf(spoken),
    floor: quiet.length > 0 ? meanOf(quiet) : new Float64Array(BAND_CENTRES.length).fill(-110),
  }
}

/** At most so many tell how understood a voice is. */
const MOMENTS = 1000

/** Tenths of seconds in which somebody speaks, spread over all that is said: bands at the level they have in the mix. */
export function spokenMoments(timeline: Timeline, analysisOf: AnalysisOf): Spectrum[] {
  const count = BAND_CENTRES.length
  const moments = [...new Set(timeline.passages.map(({ sound }) => sound))].flatMap((media) => {
    const analysis = analysisOf(media)
    if (!analysis) return []
    const gain = levelToVoice(analysis)
    return takeSpeech(analysis).flatMap(({ start, end }) =>
      Array.from({ length: Math.max(0, Math.floor((end - start) / BAND_HOP)) }, (_, i) => {
        const row = Math.round(start / BAND_HOP) + i
        return Float64Array.from(
          { length: count },
          (_, b) => bandByteToDecibels(analysis.bands[row * count + b] ?? 0) + gain,
        )
      }),
    )
  })
  const every = Math.ceil(moments.length / MOMENTS)
  return moments.filter((_, i) => i % every === 0)
}

function bedSpectrum(bed: readonly Clip[], analysisOf: AnalysisOf): Spectrum | null {
  const spectra = [...new Set(bed.map(({ media }) => media))].flatMap((media) => {
    const analysis = analysisOf(media)
    return (analysis && meanSpectrum(analysis.bands, () => true)) ?? []
  })
  return spectra.length > 0 ? meanOf(spectra) : null
}

function meanOf(spectra: readonly Spectrum[]): Spectrum {
  return Float64Array.from(spectra[0]!, (_, band) => {
    const power = spectra.reduce((sum, spectrum) => sum + 10 ** (spectrum[band]! / 10), 0)
    return 10 * Math.log10(power / spectra.length)
  })
}

/** The bed's energy after its pocket: by how much the dips lower what sounds at each moment, band by band. */
export function withPocket(
  bedRaw: LoudnessTrack,
  clips: readonly Clip[],
  { dips, amount }: PocketPlan,
  analysisOf: AnalysisOf,
): LoudnessTrack {
  const out = bedRaw.slice()
  const hopsPerRow = Math.round(BAND_HOP / HOP)
  const weights = BAND_CENTRES.map((centre) => kWeightingPower(centre))
  // Sixteen steps of the amount are finer than anybody hears.
  const left = Array.from({ length: 17 }, (_, step) =>
    BAND_CENTRES.map((centre) => pocketPower(dips, centre, step / 16)),
  )
  for (const clip of clips) {
    const bands = analysisOf(clip.media)?.bands
    if (!bands) continue
    const first = Math.floor(clip.at / HOUSE_RATE / BAND_HOP)
    const last = Math.ceil((clip.at + clip.length) / HOUSE_RATE / BAND_HOP)
    for (let row = first; row < last; row++) {
      const share = amount[Math.round(row * BAND_HOP * RIDE_RATE)] ?? 0
      if (share === 0) continue
      const source = Math.floor((clip.from + row * toSamples(BAND_HOP) - clip.at) / toSamples(BAND_HOP))
      const factor = powerLeft(bands, source, weights, left[Math.round(share * 16)]!)
      for (let h = row * hopsPerRow; h < Math.min(out.length, (row + 1) * hopsPerRow); h++) out[h] = bedRaw[h]! * factor
    }
  }
  return out
}

function powerLeft(bands: Uint8Array, row: number, weights: readonly number[], left: readonly number[]): number {
  let [before, after] = [0, 0]
  const count = BAND_CENTRES.length
  for (let b = 0; b < count; b++) {
    const level: Decibels = bandByteToDecibels(bands[row * count + b] ?? 0)
    const power = weights[b]! * 10 ** (level / 10)
    before += power
    after += power * left[b]!
  }
  return before > 0 ? after / before : 1
}
