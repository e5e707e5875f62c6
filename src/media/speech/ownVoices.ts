import { readFile } from 'node:fs/promises'
import { z } from 'zod'
import { readWav } from '@/core/formats/wav'
import { UserError } from '@/core/userError'
import { CODING_MEMORY, ProgramError, runProgram, writeTo } from '@/media/process'
import { say } from '@/messages/say'
import { voicesFile } from '../settings'
import type { SpeechEngine } from './engine'

/**
 * Voices of programs that are on this machine already, such as a neural one: each reads a sentence on standard input and
 * writes it spoken as a WAV file to standard output. They tell no times of words; alignment finds these.
 */
const ownVoiceSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  name: z.string().min(1).max(60),
  /** BCP 47. */
  language: z.string().min(2).max(20),
  /** What may be done with what it says, in a few words. */
  licence: z.string().max(200).default(''),
  /** Program and arguments; `{rate}` (words a minute) and `{pitch}` (0 to 100) are put in. */
  command: z.array(z.string().min(1)).min(1),
})
type OwnVoice = z.infer<typeof ownVoiceSchema>

const SENTENCE_LIMIT = 300 // seconds

export const ownVoices: SpeechEngine = {
  name: 'own',
  keepsRate: false,

  voices: async () =>
    (await listed()).map(({ id, name, language, licence }) => ({ id: `own:${id}`, name, language, licence })),

  async say(sentences, { voice, rate, pitch }, take, signal) {
    const own = (await listed()).find(({ id }) => id === voice)
    if (!own) throw new UserError(say('speech.thereIsNoVoice', { voice }))
    const [program, ...args] = own.command.map((part) =>
      part.replaceAll('{rate}', String(Math.round(rate))).replaceAll('{pitch}', String(Math.round(pitch))),
    )
    for (const { words } of sentences)
      await take(await spoken(own, program!, args, words.map(({ said }) => said).join(' '), signal))
  },
}

async function spoken({ name }: OwnVoice, program: string, args: string[], sentence: string, signal?: AbortSignal) {
  try {
    const bytes = await runProgram(program, args, {
      limit: SENTENCE_LIMIT,
      memory: CODING_MEMORY,
      signal,
      feed: (input) => writeTo(input, Buffer.from(`${sentence}\n`)),
    })
    const { channels, rate } = readWav(bytes)
    return { rate, samples: channels[0]!, starts: null }
  } catch (error) {
    if (signal?.aborted || !(error instanceof ProgramError || error instanceof UserError)) throw error
    throw new UserError(say('speech.theVoiceDidNot', { name, message: error.message }))
  }
}

/** The voices that the setting names; none where it is not set. */
async function listed(): Promise<OwnVoice[]> {
  const path = voicesFile()
  if (!path) return []
  const text = await readFile(path, 'utf8').catch((error: Error) => {
    throw new Error(`The list of voices of this machine can't be read (YARN_STEP_VOICES): ${error.message}`)
  })
  return z.array(ownVoiceSchema).max(100).parse(JSON.parse(text))
}
