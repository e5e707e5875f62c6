import { readScript } from '@/core/narration/words/script'
import { sentencesToSay, type Pronunciation, type ReadingSettings } from '@/core/narration/speechVoice'
import { UserError } from '@/core/userError'
import { HOUSE_RATE, type Hertz, type Seconds } from '@/core/units'
import { bytesOf } from '@/media/ffmpeg'
import { runProgram, writeTo } from '@/media/process'
import { say } from '@/messages/say'
import type { Assets } from '../store/assets'
import { pacedRate } from './pace'
import { saySentences } from './sentences'
import { languageOf } from './voices'

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

/** Kept before the first word and after the last one. */
const EDGE: Seconds = 0.15
export interface ReadingOptions {
  /** What the pace is found by, where the script is a part of it: all of the lesson's scripts, so that its steps are alike. */
  around?: string
  signal?: AbortSignal
  onProgress?: (share: number) => void
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
  { around = script, ...options }: ReadingOptions = {},
): Promise<Reading> {
  const parsed = readScript(script)
  const { words, sentences } = parsed
  if (sentences.length === 0) throw new UserError(say('speech.thereAreNoWordsTo'))
  const pace = await pacedRate(around, settings, assets, options.signal)
  const toSay = sentencesToSay(parsed, pronunciations, await languageOf(settings.voice))
  const said = await saySentences(toSay, { ...settings, rate: pace }, assets, options)
  const rate = said[0]!.rate
  const pieces: Float32Array[] = [silence(EDGE, rate)]
  const read: ReadWord[] = []
  let at = pieces[0]!.length
  sentences.forEach(({ firstWord, lastWord, pause }, i) => {
    const { samples, starts } = said[i]!
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
