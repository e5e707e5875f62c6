import { spokenLoudness, takeSpeech } from '@/core/measure/takeVoice'
import { open } from 'node:fs/promises'
import { encodeSamples, writeWavHeader } from '@/core/formats/wav'
import type { Analysis } from '@/core/measure/analysis'
import { roomNoise } from '@/core/measure/quiet'
import { CLEAN_UP_PARTS, NO_CLEAN_UP, type CleanUp, type CleanUpPart } from '@/core/narration/cleanUp/settings'
import { UserError } from '@/core/userError'
import { HOUSE_RATE } from '@/core/units'
import { cleanMedia, type RoomNoise } from '@/media/cleaning'
import { storeSource, type MediaStore } from '@/media/store/store'
import { importSoundFile, withStore } from '../workspace'

interface CleanOptions {
  out: string
  noiseFrom?: number
  noiseTo?: number
  parts?: string[]
  amount?: number
}

const USUAL: CleanUpPart[] = ['noise', 'hiss', 'rumble']

export function clean(file: string, options: CleanOptions) {
  return withStore(async (store) => {
    const { media, analysis } = await importSoundFile(store, file)
    const key = await cleanMedia(store, media.hash, settingsOf(options), roomOf(options, media.length!))
    await writeSound(store, key, analysis, options.out)
    const cleaned = (await store.analysis(key))!
    return { length: media.length, before: describe(analysis), after: describe(cleaned) }
  })
}

function settingsOf({ parts = USUAL, amount }: CleanOptions): CleanUp {
  const settings = structuredClone(NO_CLEAN_UP)
  for (const part of parts) {
    if (!CLEAN_UP_PARTS.includes(part as CleanUpPart))
      throw new UserError(`There is no part "${part}". Choose from: ${CLEAN_UP_PARTS.join(', ')}.`)
    settings[part as CleanUpPart].on = true
  }
  if (amount !== undefined) settings.noise.amount = Math.min(1, Math.max(0, amount))
  return settings
}

function roomOf({ noiseFrom, noiseTo }: CleanOptions, length: number): RoomNoise {
  if (noiseFrom === undefined && noiseTo === undefined) return null
  const [from, to] = [noiseFrom ?? 0, Math.min(noiseTo ?? length, length)]
  if (to - from < 0.1) throw new UserError('The noise must be at least a tenth of a second long and within the file.')
  return { from, to }
}

async function writeSound(store: MediaStore, key: string, { samples, channels }: Analysis, out: string) {
  const sounds = storeSource(store)
  const file = await open(out, 'w')
  try {
    await file.write(writeWavHeader(channels, HOUSE_RATE, samples))
    for (let at = 0; at < samples; at += HOUSE_RATE)
      await file.write(encodeSamples(await sounds.source(key, at, Math.min(HOUSE_RATE, samples - at))))
  } finally {
    await file.close()
    await sounds.close()
  }
}

/** Loudness of the speech and of the room, in LUFS. */
const describe = (analysis: Analysis) => ({
  speech: spokenLoudness(analysis.energy, takeSpeech(analysis)),
  noise: roomNoise(analysis),
})
