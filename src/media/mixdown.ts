import type { Writable } from 'node:stream'
import { clearanceReadings, corridorShares, type BalanceSheet } from '@/core/mix/balanceSheet'
import { rideMotion } from '@/core/mix/rideMotion'
import type { MixLevels, PlannedMix } from '@/core/mix/mixPlan'
import { renderWhole, type MixBlock, type SampleRange, type SampleSource } from '@/core/mix/renderer'
import { createEnergyMeter, type LoudnessTrack } from '@/core/measure/energyMeter'
import { reportLoudness } from '@/core/measure/loudness'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { bytesOf, decodeSound, interleave } from './ffmpeg'
import { measureDecoded } from './measure'
import { CODING_MEMORY, runProgram, writeTo } from './process'

export interface RenderOptions {
  signal?: AbortSignal
  /** 0..1 */
  onProgress?: (share: number) => void
}

/** Levels of the stems as they stand in the finished mix. */
export interface StemLevels {
  voice: LoudnessTrack
  bed: LoudnessTrack
  /** In its pocket, before its gain. */
  bedUngained: LoudnessTrack
}

/** Renders a mix into `take`, block by block, and measures its stems on the way. */
export async function renderMixdown(
  { plan }: PlannedMix,
  source: SampleSource,
  range: SampleRange,
  take: (block: MixBlock) => Promise<void>,
  { signal, onProgress }: RenderOptions = {},
): Promise<StemLevels> {
  const voice = createEnergyMeter(HOUSE_RATE, 2)
  const bed = createEnergyMeter(HOUSE_RATE, 2)
  const bedUngained = createEnergyMeter(HOUSE_RATE, 2)
  let done = 0
  for await (const block of renderWhole(plan, source, range)) {
    signal?.throwIfAborted()
    voice.push(block.tracks.voice)
    bed.push(block.tracks.bed)
    bedUngained.push(block.bedUngained)
    await take(block)
    done += block.sum[0].length
    onProgress?.(done / (range.to - range.from))
  }
  return { voice: voice.track(), bed: bed.track(), bedUngained: bedUngained.track() }
}

/** Codes the mix with ffmpeg: `coding` are its output options, the last of them the file. */
export async function encodeMixdown(
  planned: PlannedMix,
  source: SampleSource,
  range: SampleRange,
  coding: readonly string[],
  options: RenderOptions = {},
): Promise<StemLevels> {
  let levels: StemLevels | undefined
  const feed = async (input: Writable) => {
    const take = (block: MixBlock) => writeTo(input, bytesOf(interleave(block.sum)))
    levels = await renderMixdown(planned, source, range, take, options)
  }
  const input = ['-v', 'error', '-y', '-f', 'f32le', '-ar', String(HOUSE_RATE), '-ac', '2', '-i', 'pipe:0']
  await runProgram('ffmpeg', [...input, ...coding], {
    memory: CODING_MEMORY,
    limit: 6 * 3600,
    signal: options.signal,
    feed,
  })
  return levels!
}

/** Measures a finished file, decoded again, and puts it together with what the stems showed. */
export async function measureFinished(
  path: string,
  demuxer: string,
  levels: JudgedBy,
  stems: StemLevels,
  pictureLength: Seconds | null,
): Promise<BalanceSheet> {
  const stream = { rate: HOUSE_RATE, channels: 2 }
  let samples = 0
  const { track, truePeak } = await measureDecoded(stream.rate, stream.channels, (take) =>
    decodeSound(path, demuxer, 'the finished file', stream, (interleaved) => {
      take(interleaved)
      samples += interleaved.length / stream.channels
    }),
  )
  const { integrated, range } = reportLoudness(track)
  return balanceSheet(levels, stems, {
    loudness: integrated,
    range,
    truePeak,
    pictureLength,
    soundLength: samples / HOUSE_RATE,
  })
}

type Whole = Pick<BalanceSheet, 'loudness' | 'range' | 'truePeak' | 'pictureLength' | 'soundLength'>

/** By what stems are judged: where somebody speaks, where music is to be heard, and how far below. */
type JudgedBy = Pick<MixLevels, 'said' | 'music' | 'clearance'>

export function balanceSheet({ said, music, clearance }: JudgedBy, stems: StemLevels, whole: Whole): BalanceSheet {
  const spoken = said.reduce((sum, { start, end }) => sum + end - start, 0)
  return {
    ...corridorShares(clearanceReadings(stems.voice, stems.bed, said, music), clearance),
    motion: music.length === 0 ? null : rideMotion(stems.bedUngained, stems.bed, said),
    spoken,
    ...whole,
  }
}
