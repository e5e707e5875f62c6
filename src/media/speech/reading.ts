import { readScript } from '@/core/narration/words/script'
import {
  sentencesToSay,
  type Pronunciation,
  type ReadingSettings,
  type SentenceToSay,
  type SpeechVoice,
} from '@/core/narration/speechVoice'
import { UserError } from '@/core/userError'
import { HOUSE_RATE, type Hertz, type Seconds } from '@/core/units'
import { bytesOf } from '@/media/ffmpeg'
import { runProgram, writeTo } from '@/media/process'
import type { Assets, Recipe } from '../store/assets'
import type { SpeechEngine, SpokenSentence } from './engine'
import { espeak } from './espeak'
import { flite } from './flite'
import { ownVoices } from './ownVoices'

const ENGINES: readonly SpeechEngine[] = [espeak, flite, ownVoices]

/** A script as it was read: the sound at the house rate, and when each word is said. */
export interface Reading {
  samples: Float32Array
  words: ReadWord[]
  /** Whether the engine has told the times itself; otherwise they are guessed, and alignment tells better. */
  isTimed: boolean
}

export interface ReadWord {
  text: string
  /** Place in the script, in characters. */
  from: number
  to: number
  sentence: number
  start: Seconds
  end: Seconds
}

/** Raised when an engine's way of saying things changes, so that sentences said before are not used again. */
const EDITION = 1
/** Kept before the first word and after the last one. */
const EDGE: Seconds = 0.15
/** Sound of an engine below this is the silence around its words. */
const AUDIBLE = 0.003

export async function listVoices(): Promise<SpeechVoice[]> {
  return (await Promise.all(ENGINES.map((engine) => engine.voices()))).flat()
}

/** The language a voice speaks; `en` for one that is not here. */
export async function languageOf(voice: string): Promise<string> {
  return (await listVoices()).find(({ id }) => id === voice)?.language ?? 'en'
}

/**
 * Has a script read. Sentences that were said before with the same settings are assets, so that after a change of the
 * script only changed sentences are said anew. Throws a UserError where there is nothing to say, or no
 * such voice.
 */
export async function readAloud(
  script: string,
  settings: ReadingSettings,
  pronunciations: readonly Pronunciation[],
  assets: Assets,
  options: { signal?: AbortSignal; onProgress?: (share: number) => void } = {},
): Promise<Reading> {
  const parsed = readScript(script)
  const { words, sentences } = parsed
  if (sentences.length === 0) throw new UserError('There are no words to read here. Write a script first.')
  const said = await saySentences(
    sentencesToSay(parsed, pronunciations, await languageOf(settings.voice)),
    settings,
    assets,
    options,
  )
  const rate = said[0]!.rate
  const pieces: Float32Array[] = [silence(EDGE, rate)]
  const read: ReadWord[] = []
  let at = pieces[0]!.length
  sentences.forEach(({ firstWord, lastWord, pause }, i) => {
    const { samples, starts } = trimmed(said[i]!)
    const own = words.slice(firstWord, lastWord + 1)
    const begins = starts ?? spreadByLetters(own, samples.length / rate)
    own.forEach(({ text, from, to, sentence }, w) => {
      const start = at / rate + begins[w]!
      read.push({ text, from, to, sentence, start, end: at / rate + (begins[w + 1] ?? samples.length / rate) })
    })
    const gap = silence(i === sentences.length - 1 ? EDGE : Math.max(pause, settings.pause), rate)
    pieces.push(samples, gap)
    at += samples.length + gap.length
  })
  const isTimed = said.every(({ starts }) => starts !== null)
  return { samples: await toHouseRate(joined(pieces), rate), words: read, isTimed }
}

/** Says what was not said yet, all of it in one run of the engine. */
async function saySentences(
  sentences: readonly SentenceToSay[],
  settings: ReadingSettings,
  assets: Assets,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<SpokenSentence[]> {
  const { engine, voice } = await engineOf(settings.voice)
  const { rate, pitch } = settings
  const recipeOf = (sentence: SentenceToSay): Recipe => ({
    kind: 'speech',
    edition: EDITION,
    sources: [],
    recipe: [engine.name, voice, rate, pitch, sentence],
    extension: 'speech',
  })
  const kept = await assets.all(sentences.map(recipeOf), async (missing, keep) => {
    let done = 0
    const texts = missing.map((i) => sentences[i]!)
    await engine.say(
      texts,
      { ...settings, voice },
      async (spoken) => {
        await keep(missing[done++]!, packed(spoken))
        onProgress?.(done / missing.length)
      },
      signal,
    )
  })
  return kept.map(unpacked)
}

async function engineOf(id: string): Promise<{ engine: SpeechEngine; voice: string }> {
  const [name, voice] = id.split(':') as [string, string | undefined]
  const engine = ENGINES.find((one) => one.name === name)
  const known = engine && (await engine.voices()).some((one) => one.id === id)
  if (!engine || !voice || !known) throw new UserError(`There is no voice "${id}" on this machine. Choose another one.`)
  return { engine, voice }
}

function packed({ rate, samples, starts }: SpokenSentence): Buffer {
  return Buffer.concat([Buffer.from(`${JSON.stringify({ rate, starts })}\n`), bytesOf(samples)])
}

function unpacked(bytes: Buffer): SpokenSentence {
  const end = bytes.indexOf(10) + 1
  const head = JSON.parse(bytes.subarray(0, end).toString('utf8')) as Pick<SpokenSentence, 'rate' | 'starts'>
  return {
    ...head,
    samples: new Float32Array(bytes.buffer.slice(bytes.byteOffset + end, bytes.byteOffset + bytes.length)),
  }
}

/** Takes the silence off both ends; a word that began in it begins with the sound. */
function trimmed({ rate, samples, starts }: SpokenSentence): { samples: Float32Array; starts: Seconds[] | null } {
  const audible = (value: number) => Math.abs(value) > AUDIBLE
  const from = Math.max(0, samples.findIndex(audible))
  const cut = samples.slice(from, samples.findLastIndex(audible) + 1)
  return {
    samples: cut,
    starts: starts?.map((start) => Math.min(cut.length / rate, Math.max(0, start - from / rate))) ?? null,
  }
}

/** For engines that tell no times: words last as long as they are written (see `isTimed`). */
function spreadByLetters(words: readonly { text: string }[], length: Seconds): Seconds[] {
  const total = words.reduce((sum, { text }) => sum + text.length + 1, 0)
  let passed = 0
  return words.map(({ text }) => {
    const start = (length * passed) / total
    passed += text.length + 1
    return start
  })
}

const silence = (length: Seconds, rate: Hertz) => new Float32Array(Math.round(length * rate))

export function joined(pieces: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
  let at = 0
  for (const piece of pieces) {
    out.set(piece, at)
    at += piece.length
  }
  return out
}

async function toHouseRate(samples: Float32Array, rate: Hertz): Promise<Float32Array> {
  if (rate === HOUSE_RATE) return samples
  const raw = (hertz: Hertz) => ['-f', 'f32le', '-ar', String(hertz)]
  const args = ['-v', 'error', ...raw(rate), '-ac', '1', '-i', 'pipe:0', ...raw(HOUSE_RATE), 'pipe:1']
  const out = await runProgram('ffmpeg', args, { limit: 600, feed: (input) => writeTo(input, bytesOf(samples)) })
  return new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength))
}
