import { HOUSE_RATE, type SampleIndex, type Seconds } from '@/core/units'
import { createBandMeter } from './bands'
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
      return { samples, channels: channelCount, energy: track, wave: Int8Array.from(wave), bands: bands.rows() }
    },
  }
}

export const analysisLength = (analysis: Analysis): Seconds => analysis.samples / HOUSE_RATE

const toByte = (value: number) => Math.max(-127, Math.min(127, Math.round(value * 127)))
