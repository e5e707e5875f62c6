import type { SpeechVoice } from '@/core/narration/speechVoice'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import type { SpeechEngine } from './engine'
import { espeak } from './espeak'
import { flite } from './flite'
import { ownVoices } from './ownVoices'

const ENGINES: readonly SpeechEngine[] = [espeak, flite, ownVoices]

export async function listVoices(): Promise<SpeechVoice[]> {
  return (await Promise.all(ENGINES.map((engine) => engine.voices()))).flat()
}

/** The language a voice speaks; `en` for one that is not here. */
export async function languageOf(voice: string): Promise<string> {
  return (await listVoices()).find(({ id }) => id === voice)?.language ?? 'en'
}

/** The engine of a voice, and its own name for it. Throws a UserError where there is no such voice. */
export async function engineOf(id: string): Promise<{ engine: SpeechEngine; voice: string }> {
  const [name, voice] = id.split(':') as [string, string | undefined]
  const engine = ENGINES.find((one) => one.name === name)
  const known = engine && (await engine.voices()).some((one) => one.id === id)
  if (!engine || !voice || !known) throw new UserError(say('speech.thereIsNoVoiceOn', { id }))
  return { engine, voice }
}
