import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { readWav } from '@/core/formats/wav'
import { runProgram } from '@/media/process'
import { withWorkFolder } from '../store/workFolder'
import type { SpeechEngine } from './engine'

/** The voices made from recordings of people; the others that flite brings sound no better than espeak-ng. */
const VOICES = [
  { id: 'slt', name: 'English (America), a woman', language: 'en-us' },
  { id: 'rms', name: 'English (America), a man', language: 'en-us' },
  { id: 'awb', name: 'English (Scotland), a man', language: 'en-gb-scotland' },
]
/** Words a minute at a stretch of 1, measured on the demo script. */
const OWN_RATE = 165
/** How far the fundamental may be moved, in octaves either way. */
const PITCH_REACH = 0.5

/** flite: English only, made from recorded speech. It tells no word times. */
export const flite: SpeechEngine = {
  name: 'flite',
  keepsRate: true,

  voices: async () => VOICES.map(({ id, name, language }) => ({ id: `flite:${id}`, name, language })),

  async say(sentences, { voice, rate, pitch }, take, signal) {
    await withWorkFolder(async (folder) => {
      for (const { words } of sentences) {
        const [text, out] = [join(folder, 'text'), join(folder, 'out.wav')]
        await writeFile(text, words.map(({ said }) => said).join(' '))
        const settings = [
          '--setf',
          `duration_stretch=${(OWN_RATE / rate).toFixed(3)}`,
          '--setf',
          `f0_shift=${(2 ** ((PITCH_REACH * (pitch - 50)) / 50)).toFixed(3)}`,
        ]
        await runProgram('flite', ['-voice', voice, ...settings, '-f', text, '-o', out], { limit: 120, signal })
        const { channels, rate: hertz } = readWav(await readFile(out))
        await take({ rate: hertz, samples: channels[0]!, starts: null })
      }
    })
  },
}
