import { alignTake } from '@/core/narration/align/align'
import type { Alignment } from '@/core/narration/align/alignment'
import { createCepstrumMeter } from '@/core/narration/align/cepstra'
import { createReference, type Reference } from '@/core/narration/align/reference'
import type { Script } from '@/core/narration/script'
import { DEFAULT_READING, sentencesToSay } from '@/core/narration/speechVoice'
import { takeSpeech } from '@/core/mix/plan'
import { UserError } from '@/core/userError'
import { HOUSE_RATE } from '@/core/units'
import { runProgram } from './process'
import { espeak } from './speech/espeak'
import { PARTS, type MediaStore } from './store'

/** Rate at which voices are compared. */
const RATE = 16000

/**
 * Aligns a take in the store with a script in this language. Throws a UserError where the script has no words, or no
 * voice speaks the language.
 */
export async function alignMedia(
  store: MediaStore,
  media: string,
  script: Script,
  language: string,
  options: { signal?: AbortSignal; onProgress?: (share: number) => void } = {},
): Promise<Alignment> {
  const analysis = await store.analysis(media)
  if (!analysis) throw new UserError('There is no sound in this file, so there is nothing to align.')
  const [reference, cepstra] = await Promise.all([
    referenceOf(script, language, options.signal),
    takeCepstra(store, media, options.signal),
  ])
  const onProgress = (share: number) => options.onProgress?.(0.3 + 0.7 * share)
  return alignTake(cepstra, takeSpeech(analysis), reference, { onProgress })
}

async function referenceOf(script: Script, language: string, signal?: AbortSignal): Promise<Reference> {
  const { words, sentences } = script
  if (sentences.length === 0) throw new UserError('There are no words in this script. Write it first.')
  const voices = await espeak.voices()
  const known = voices.some(
    (voice) => voice.id === `${espeak.name}:${language}` || voice.language.split('-')[0] === language,
  )
  if (!known) throw new UserError(`No voice on this machine speaks "${language}". Choose another language.`)
  const builder = createReference()
  let index = 0
  await espeak.say(
    sentencesToSay(script, []),
    { ...DEFAULT_READING, voice: language, rate: 160 },
    ({ samples, rate, starts }) => {
      const { firstWord, lastWord } = sentences[index++]!
      const punctuated = words.slice(firstWord, lastWord + 1).map(({ text }) => /[,;:–—.!?…]["'”’)]*$/u.test(text))
      builder.add({ samples, rate, starts: starts!, punctuated })
    },
    signal,
  )
  return builder.finish()
}

async function takeCepstra(store: MediaStore, media: string, signal?: AbortSignal): Promise<Float32Array> {
  const { channels } = await store.info(media)
  const meter = createCepstrumMeter(RATE)
  const raw = (rate: number, count: number) => ['-f', 'f32le', '-ar', String(rate), '-ac', String(count)]
  const args = [
    '-v',
    'error',
    ...raw(HOUSE_RATE, channels),
    '-i',
    `file:${store.path(media, PARTS.sound)}`,
    ...raw(RATE, 1),
    'pipe:1',
  ]
  let rest = Buffer.alloc(0)
  await runProgram('ffmpeg', args, {
    limit: 1800,
    signal,
    onOutput(chunk) {
      const bytes = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk
      const whole = bytes.length - (bytes.length % 4)
      rest = Buffer.from(bytes.subarray(whole))
      meter.push(new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + whole)))
    },
  })
  return meter.frames()
}
