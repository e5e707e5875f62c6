import { join } from 'node:path'
import { CODING_MEMORY, ProgramError, runProgram, writeTo } from '@/media/process'
import { projectFolder } from '@/media/settings'
import type { SentenceToSay } from '@/core/narration/speechVoice'
import type { Hertz, Seconds } from '@/core/units'
import type { SpeechEngine, SpokenSentence } from './engine'

const LIMIT: Seconds = 1800
/** The host prints this before each sentence's samples. */
interface SentenceHeader {
  samples: number
  words: { at: number; sample: number }[]
}

/** espeak-ng: small, quick, more than a hundred languages, and it tells when each word begins. */
export const espeak: SpeechEngine = {
  name: 'espeak-ng',
  keepsRate: true,

  async voices() {
    const list = await runProgram('espeak-ng', ['--voices'], { limit: 20 })
    const voices = list.toString('utf8').trim().split('\n').slice(1).map(readVoiceLine)
    return voices
      .filter(({ file }) => !file.startsWith('mb/'))
      .map(({ id, name, language }) => ({ id, name, language }))
  },

  async say(sentences, { voice, rate, pitch }, take, signal) {
    const texts = sentences.map(toSsml)
    const settings = { voice, rate: Math.round(rate), pitch: Math.round(pitch) }
    const host = join(projectFolder(), 'src', 'media', 'speech', 'espeakHost.mjs')
    let said = 0
    const sayRest = () => {
      const job = JSON.stringify({ ...settings, texts: texts.slice(said).map(({ ssml }) => ssml) })
      return runProgram(process.execPath, [host], {
        limit: LIMIT,
        memory: CODING_MEMORY,
        signal,
        feed: (input) => writeTo(input, Buffer.from(job)),
        onOutput: sentenceReader((sentence, { words }) => {
          const { offsets } = texts[said++]!
          return take({ ...sentence, starts: startsOf(offsets, words, sentence) })
        }),
      })
    }
    for (let deaths = 0; ; deaths++) {
      try {
        await sayRest()
        return
      } catch (error) {
        // A host was seen to end without a word, on a busy machine: another one says what is left.
        if (!hasCrashed(error) || deaths === MOST_DEATHS) throw error
      }
    }
  },
}

/** Ended by a signal that nobody here has sent. */
const hasCrashed = (error: unknown) =>
  error instanceof ProgramError && error.reason === 'program' && error.signal !== null
const MOST_DEATHS = 2

/** ` 2  en-gb  --/M  English_(Great_Britain) gmw/en  (en 2)` */
function readVoiceLine(line: string): { id: string; name: string; language: string; file: string } {
  const [, language, , name, file] = line.trim().split(/\s+/)
  return { id: `espeak-ng:${language}`, name: name!.replaceAll('_', ' '), language: language!, file: file! }
}

/** At its own volume stressed words, 6 dB louder and more, would be cut off at full scale. */
const SOFTER = '<prosody volume="-30%">'
const STRESSED = '<emphasis level="strong"><prosody volume="-50%">'

/** The sentence as SSML, and where in it each word begins. */
function toSsml({ words }: SentenceToSay): { ssml: string; offsets: number[] } {
  let ssml = SOFTER
  const offsets: number[] = []
  for (const { said, stressed } of words) {
    if (stressed) ssml += STRESSED
    offsets.push(ssml.length)
    ssml += escaped(said)
    ssml += stressed ? '</prosody></emphasis> ' : ' '
  }
  return { ssml: `${ssml}</prosody>`, offsets }
}

const ENTITIES: Record<string, string> = { '&': ' and ', '<': ' ', '>': ' ' }
const escaped = (text: string) => text.replace(/[&<>]/g, (mark) => ENTITIES[mark]!)

/** When each word begins; a word the engine names no time for begins between its neighbours. */
function startsOf(
  offsets: readonly number[],
  events: SentenceHeader['words'],
  { samples, rate }: Omit<SpokenSentence, 'starts'>,
): Seconds[] {
  const starts: (number | null)[] = offsets.map(() => null)
  for (const { at, sample } of events) {
    const word = offsets.findLastIndex((offset) => offset <= at)
    if (word >= 0 && starts[word] === null) starts[word] = sample
  }
  starts[0] ??= 0
  for (let i = 1; i < starts.length; i++) {
    if (starts[i] !== null) continue
    let next = i
    while (next < starts.length && starts[next] === null) next++
    const from = starts[i - 1]!
    starts[i] = from + ((starts[next] ?? samples.length) - from) / (next - i + 1)
  }
  // Where two events came out of order, a word takes no time rather than less than none.
  for (let i = 1; i < starts.length; i++) starts[i] = Math.max(starts[i]!, starts[i - 1]!)
  return starts.map((sample) => sample! / rate)
}

/** Reads the host's output as it comes: a line with the rate, then header line and samples of each sentence. */
function sentenceReader(
  take: (sentence: { rate: Hertz; samples: Float32Array }, header: SentenceHeader) => void | Promise<void>,
): (chunk: Buffer) => Promise<void> {
  let held: Buffer[] = []
  let length = 0
  let rate: Hertz | null = null
  let header: SentenceHeader | null = null
  const gather = (bytes: number) => {
    const all = held.length === 1 ? held[0]! : Buffer.concat(held)
    held = [all.subarray(bytes)]
    length = all.length - bytes
    return all.subarray(0, bytes)
  }
  const readLine = () => {
    const all = held.length === 1 ? held[0]! : Buffer.concat(held)
    held = [all]
    const end = all.indexOf(10)
    return end < 0 ? null : gather(end + 1).toString('utf8')
  }
  return async (chunk) => {
    held.push(chunk)
    length += chunk.length
    for (;;) {
      if (header) {
        if (length < header.samples * 2) return
        const bytes = gather(header.samples * 2)
        const done = header
        header = null
        await take({ rate: rate!, samples: fromWords(bytes) }, done)
      } else {
        const line = readLine()
        if (line === null) return
        if (rate === null) rate = (JSON.parse(line) as { rate: Hertz }).rate
        else header = JSON.parse(line) as SentenceHeader
      }
    }
  }
}

function fromWords(bytes: Buffer): Float32Array {
  const out = new Float32Array(bytes.length / 2)
  for (let i = 0; i < out.length; i++) out[i] = bytes.readInt16LE(i * 2) / 32768
  return out
}
