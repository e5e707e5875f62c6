import { takeSpeech } from '@/core/measure/takeVoice'
import { alignTake, coarseFit, type TakeSpectra } from '@/core/narration/align/align'
import type { Alignment } from '@/core/narration/align/alignment'
import { createMelMeter } from '@/core/narration/align/mel'
import { createReference, type MelReference } from '@/core/narration/align/reference'
import type { TimedWord } from '@/core/messages/job'
import { readScript, type Script } from '@/core/narration/words/script'
import { endsClause, endsSentence } from '@/core/narration/words/sentenceEnds'
import { DEFAULT_READING, sentencesToSay } from '@/core/narration/speechVoice'
import type { SpeechSegment } from '@/core/measure/speech'
import { UserError } from '@/core/userError'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { espeak } from './espeak'
import type { Reading } from './reading'
import type { MediaStore } from '../store/store'
import { partAtRate, type TakePart } from './partAtRate'

/** Rate at which voices are compared. */
const RATE = 16000

/** Tried one after the other, for the languages whose great accents differ most. */
const ACCENTS: Record<string, string[]> = { en: ['en-gb', 'en-us'], es: ['es', 'es-419'], pt: ['pt', 'pt-br'] }
/** Lengths of vocal tract that are tried, see mel.ts: children and women have shorter ones than the synthesiser. */
const WARPS = [0.88, 0.94, 1, 1.06, 1.12, 1.18, 1.24]
/** What is listened to for the choice. */
const PILOT: Seconds = 45
const PILOT_SENTENCES = 25

interface AlignOptions {
  signal?: AbortSignal
  onProgress?: (share: number) => void
}

/**
 * Aligns a part of a take in the store with a script in this language (BCP 47). Throws a UserError where the script has no
 * words, or no voice speaks the language.
 */
export async function alignMedia(
  store: MediaStore,
  part: TakePart,
  script: Script,
  language: string,
  { signal, onProgress }: AlignOptions = {},
): Promise<Alignment> {
  const { take, reference } = await compared(store, part, script, language, { signal, onProgress })
  const found = alignTake(take, reference, { onProgress: (share) => onProgress?.(0.3 + 0.7 * share) })
  return inTakeTime(found, part.from)
}

/** What of a part is compared with what of its script; throws as `alignMedia` does. */
export async function compared(
  store: MediaStore,
  part: TakePart,
  script: Script,
  language: string,
  { signal, onProgress }: AlignOptions = {},
): Promise<{ take: TakeSpectra; reference: MelReference }> {
  const analysis = await store.analysis(part.media)
  if (!analysis) throw new UserError(say('speech.thereIsNoSound'))
  if (script.sentences.length === 0) throw new UserError(say('speech.thereAreNoWords'))
  const speech = speechWithin(takeSpeech(analysis), part)
  const { voice, warp } = await chosenFor(store, part, speech, script, language, signal)
  onProgress?.(0.15)
  const [reference, [mel]] = await Promise.all([
    referenceOf(script, voice, signal),
    spectraOf(store, part, [warp], signal),
  ])
  return { take: { mel: mel!, speech }, reference }
}

/**
 * The words of a reading in the store at their times: the engine's own, or those that alignment finds. Where a sentence
 * begins and ends is known in any case, since a reading is put together from sentences.
 */
export async function timedReading(
  store: MediaStore,
  media: string,
  text: string,
  { words, isTimed, samples }: Reading,
  language: string,
): Promise<TimedWord[]> {
  const known = words.map((word) => ({ ...word, confidence: 1 }))
  if (isTimed) return known
  const script = readScript(text)
  const whole = { media, from: 0, to: samples.length / HOUSE_RATE }
  const aligned = await alignMedia(store, whole, script, language.split('-').slice(0, 2).join('-'))
  const found = new Map(aligned.words.map((word) => [word.word, word]))
  return known.map((word, i) => {
    const times = found.get(i)
    if (!times) return word
    const [begins, ends] = [known[i - 1]?.sentence !== word.sentence, known[i + 1]?.sentence !== word.sentence]
    return { ...word, start: begins ? word.start : times.start, end: ends ? word.end : times.end }
  })
}

/** Speech in a part, in the part's own time. */
function speechWithin(speech: readonly SpeechSegment[], { from, to }: TakePart): SpeechSegment[] {
  return speech
    .filter(({ start, end }) => end > from && start < to)
    .map(({ start, end }) => ({ start: Math.max(start, from) - from, end: Math.min(end, to) - from }))
}

function inTakeTime({ words, sentences, extra }: Alignment, from: Seconds): Alignment {
  const moved = <T extends { start: Seconds; end: Seconds }>(one: T): T => ({
    ...one,
    start: one.start + from,
    end: one.end + from,
  })
  return {
    words: words.map(moved),
    sentences: sentences.map((one) => (one.status === 'spoken' ? moved(one) : one)),
    extra: extra.map(moved),
  }
}

type Choice = { voice: string; warp: number }

/** What suits the speaker of a file is looked for once; a file's parts mostly have the same one. */
const choices = new Map<string, Choice>()
const MOST_CHOICES = 200

async function chosenFor(
  ...[store, part, speech, script, language, signal]: Parameters<typeof choose>
): Promise<Choice> {
  const key = `${part.media} ${language}`
  const known = choices.get(key)
  if (known) return known
  const choice = await choose(store, part, speech, script, language, signal)
  if (choices.size >= MOST_CHOICES) choices.clear()
  choices.set(key, choice)
  return choice
}

/** The reference voice and the warp that suit the beginning of the take best. */
async function choose(
  store: MediaStore,
  { media, from }: TakePart,
  speech: readonly SpeechSegment[],
  script: Script,
  language: string,
  signal?: AbortSignal,
): Promise<Choice> {
  const length = (speech[0]?.start ?? 0) + PILOT
  const opening = speech.filter(({ end }) => end < length)
  const firstWords = { ...script, sentences: script.sentences.slice(0, PILOT_SENTENCES) }
  const pilot = await spectraOf(store, { media, from, to: from + length }, WARPS, signal)
  const spectra = new Map(WARPS.map((warp, i) => [warp, pilot[i]!]))
  let best = { voice: '', warp: 1, fit: Infinity }
  for (const voice of await voicesFor(language)) {
    const reference = await referenceOf(firstWords, voice, signal)
    for (const [warp, mel] of spectra) {
      const fit = coarseFit({ mel, speech: opening }, reference)
      if (fit < best.fit || !best.voice) best = { voice, warp, fit }
    }
  }
  return best
}

async function voicesFor(language: string): Promise<string[]> {
  const code = language.toLowerCase()
  const accents = ACCENTS[code.split('-')[0]!]
  const voices = (await espeak.voices()).map((voice) => voice.language)
  const exact = voices.find((voice) => voice.toLowerCase() === code)
  if (accents && (!exact || accents.includes(code) || !code.includes('-'))) return accents
  const voice = exact ?? voices.find((one) => one.split('-')[0] === code.split('-')[0])
  if (!voice) throw new UserError(say('speech.noVoiceOnThis', { language }))
  return [voice]
}

async function referenceOf(script: Script, voice: string, signal?: AbortSignal): Promise<MelReference> {
  const { words, sentences } = script
  const builder = createReference()
  let index = 0
  await espeak.say(
    sentencesToSay(script, [], voice),
    { ...DEFAULT_READING, voice, rate: 160 },
    ({ samples, rate, starts }) => {
      const { firstWord, lastWord } = sentences[index++]!
      const punctuated = words.slice(firstWord, lastWord + 1).map(({ text }) => endsClause(text) || endsSentence(text))
      builder.add({ samples, rate, starts: starts!, punctuated })
    },
    signal,
  )
  return builder.finish()
}

/** Spectra of a part, one for each warp, from one decoding. */
async function spectraOf(
  store: MediaStore,
  part: TakePart,
  warps: readonly number[],
  signal?: AbortSignal,
): Promise<Float32Array[]> {
  const meters = warps.map((warp) => createMelMeter(RATE, warp))
  await partAtRate(store, part, RATE, (samples) => meters.forEach((meter) => meter.push(samples)), signal)
  return meters.map((meter) => meter.frames())
}
