import { readFile, writeFile } from 'node:fs/promises'
import { writeWav } from '@/core/formats/wav'
import { readingSettingsSchema, type Pronunciation } from '@/core/narration/speechVoice'
import { UserError } from '@/core/userError'
import { HOUSE_RATE } from '@/core/units'
import { timedReading } from '@/media/speech/alignment'
import { importMedia } from '@/media/import/import'
import { readAloud } from '@/media/speech/reading'
import { languageOf } from '@/media/speech/voices'
import { withStore } from '../workspace'

interface SayOptions {
  voice: string
  rate: number
  pitch: number
  pause: number
  saidAs?: string[]
  out: string
}

export async function say(script: string, { voice, rate, pitch, pause, saidAs = [], out }: SayOptions) {
  const settings = readingSettingsSchema.safeParse({ voice, rate, pitch, pause })
  if (!settings.success)
    throw new UserError('The rate must be 80 to 300, the pitch 0 to 100, the pause 0 to 5 seconds.')
  const text = await readFile(script, 'utf8')
  return withStore(async (store, assets) => {
    const reading = await readAloud(text, settings.data, saidAs.map(readPair), assets)
    await writeFile(out, writeWav([reading.samples], HOUSE_RATE))
    const { hash } = await importMedia(store, out, 'Reading.wav')
    const words = await timedReading(store, hash, text, reading, await languageOf(voice))
    return {
      voice,
      length: reading.samples.length / HOUSE_RATE,
      words: words.map(({ text, start, end, sentence }) => ({ text, start, end, sentence })),
    }
  })
}

function readPair(pair: string): Pronunciation {
  const [word, saidAs] = pair.split('=')
  if (!word || !saidAs) throw new UserError(`Write it as word=said, not "${pair}".`)
  return { word, saidAs }
}
