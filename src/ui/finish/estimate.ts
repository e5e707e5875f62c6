import { outputOf, type Output, type OutputName } from '@/core/delivery/outputs'
import type { ExportStatus } from '@/core/messages/job'
import type { Seconds } from '@/core/units'

/** What is to be expected of a file before it is made. */
export interface Estimate {
  bytes: number
  time: Seconds
}

/** Bytes a second of lesson, and seconds of work a second of lesson: of lessons of slides, on a machine of two cores. */
const RATES = {
  mp4: { bytes: 48_000, work: 0.12 },
  webm: { bytes: 44_000, work: 0.4 },
  small: { bytes: 18_000, work: 0.25 },
  wav: { bytes: 288_000, work: 0.05 },
  flac: { bytes: 150_000, work: 0.06 },
  mp3: { bytes: 24_000, work: 0.05 },
  m4a: { bytes: 25_000, work: 0.06 },
  opus: { bytes: 25_000, work: 0.05 },
  tracks: { bytes: 700_000, work: 0.1 },
  text: { bytes: 20, work: 0.001 },
}
/** Before anything begins. */
const START: Seconds = 2

function rateOf(output: Output): { bytes: number; work: number } {
  switch (output.kind) {
    case 'video':
      return output.container === 'webm' ? RATES.webm : output.size === 'small' ? RATES.small : RATES.mp4
    case 'package':
      return RATES.mp4
    case 'sound':
    case 'voice':
      return RATES[output.format]
    case 'tracks':
      return RATES.tracks
    default:
      return RATES.text
  }
}

/** What the same file came to when it was last made says more than any rate. */
export function estimateOf(name: OutputName, length: Seconds, made: readonly ExportStatus[]): Estimate {
  const rate = rateOf(outputOf(name))
  const last = made.find(({ state, input }) => state === 'done' && input.file === name)
  const lastLength = last?.result?.balance?.soundLength
  const bytes = last?.result && lastLength ? (last.result.bytes * length) / lastLength : rate.bytes * length
  return { bytes, time: START + rate.work * length }
}
