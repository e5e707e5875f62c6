import { mkdir, open, type FileHandle } from 'node:fs/promises'
import { dirname } from 'node:path'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { reportLoudness } from '@/core/measure/loudness'
import { createTruePeakMeter } from '@/core/measure/truePeak'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { PlannedMix } from '@/core/mix/mixPlan'
import type { MixBlock, Stereo } from '@/core/mix/renderer'
import { HOUSE_RATE } from '@/core/units'
import { balanceSheet, renderMixdown, type RenderOptions } from '../mixdown'
import { storeSource, type MediaStore } from '../store/store'

/** What is written where: each file takes its part of every block. */
export type StemFiles = Record<string, (block: MixBlock) => Stereo>

export const STEMS = {
  voice: (block: MixBlock) => block.tracks.voice,
  bed: (block: MixBlock) => block.tracks.bed,
  bedRaw: (block: MixBlock) => block.bedRaw,
  /** Effects and the recordings' own sound. */
  sounds: ({ tracks }: MixBlock) =>
    tracks.sounds.map((channel, c) => channel.map((value, i) => value + tracks.recordings[c]![i]!)) as Stereo,
  sum: (block: MixBlock) => block.sum,
}

/** The tracks as they are heard; they add up to the mix. */
export const TRACK_STEMS = {
  voice: (block: MixBlock) => block.tracks.voice,
  music: (block: MixBlock) => block.tracks.bed,
  sounds: (block: MixBlock) => block.tracks.sounds,
  recordings: (block: MixBlock) => block.tracks.recordings,
} satisfies StemFiles

/** Renders a mix once and writes any of its parts as 24-bit WAV files, all equally long. */
export async function writeStems(
  planned: PlannedMix,
  store: MediaStore,
  files: StemFiles,
  options: RenderOptions = {},
): Promise<BalanceSheet> {
  const { length } = planned.plan
  const sounds = storeSource(store)
  const energy = createEnergyMeter(HOUSE_RATE, 2)
  const peak = createTruePeakMeter(2)
  const opened: { file: FileHandle; pick: (block: MixBlock) => Stereo }[] = []
  try {
    for (const [path, pick] of Object.entries(files)) {
      await mkdir(dirname(path), { recursive: true })
      const file = await open(path, 'w')
      await file.write(writeWavHeader(2, HOUSE_RATE, length))
      opened.push({ file, pick })
    }
    const take = async (block: MixBlock) => {
      energy.push(block.sum)
      peak.push(block.sum)
      for (const { file, pick } of opened) await file.write(encodeSamples(pick(block)))
    }
    const stems = await renderMixdown(planned, sounds.source, { from: 0, to: length }, take, options)
    const { integrated, range } = reportLoudness(energy.track())
    return balanceSheet(planned.levels, stems, {
      loudness: integrated,
      range,
      truePeak: peak.peak(),
      pictureLength: null,
      soundLength: length / HOUSE_RATE,
    })
  } finally {
    for (const { file } of opened) await file.close()
    await sounds.close()
  }
}
