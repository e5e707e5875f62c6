import { seededRandom } from '@/core/random'
import { HOUSE_RATE, toFactor, type Decibels, type Seconds } from '@/core/units'
import { runProgram } from '@/media/process'
import { flite } from '@/media/speech/flite'
import { joined } from '@/media/speech/reading'

/** Readings with known times: sentences put together from known pieces, said by voices unlike the aligner's own. */

const SUBJECTS = 'the skipper,a small boat,every chart,the tide table,our pilot book,the harbour wall,one crew member,the cleat,a spring line,the falling tide'.split(',') // prettier-ignore
const VERBS = 'shows,changes,keeps,leaves,follows,reaches,needs,holds,covers,crosses'.split(',')
const OBJECTS = 'the deep channel,a second buoy,nine metres of water,the western entrance,your own shadow,enough room for the turn,a bowline at the end,the height of the tide,two long fenders,nothing but mud'.split(',') // prettier-ignore
const PLACES = 'before noon,near the old lighthouse,when the wind is in the north,after the second bell,on most evenings,behind the breakwater,as the chart says,in less than an hour,under the bridge,at springs'.split(',') // prettier-ignore
const OPENINGS = 'Remember that,Now look:,As a rule,On the other hand,Once more,Without doubt,In this harbour,If you ask me'.split(',') // prettier-ignore

/** Sentences of 4 to 24 words, each with words of its own mix. */
export function sentencesOf(count: number, seed: number): string[] {
  const random = seededRandom(seed)
  const pick = (list: readonly string[]) => list[Math.floor(random() * list.length)]!
  return Array.from({ length: count }, () => {
    const clause = () => `${pick(SUBJECTS)} ${pick(VERBS)} ${pick(OBJECTS)}`
    const long = random()
    const start = long < 0.3 ? `${pick(OPENINGS)} ` : ''
    const rest = long > 0.75 ? `, and ${clause()} ${pick(PLACES)}` : long > 0.4 ? ` ${pick(PLACES)}` : ''
    const text = `${start}${clause()}${rest}.`
    return text[0]!.toUpperCase() + text.slice(1)
  })
}

/** What is read: a sentence of the script by its number (whole, or broken off), or words of no script. */
export type Said = { sentence: number; share?: number } | { adLib: string }

export interface TimedReading {
  samples: Float32Array
  said: { what: Said; start: Seconds; end: Seconds; words: Seconds[] | null }[]
}

/** Has everything read in order, with pauses between 0.15 and 1.2 s. */
export async function readingOf(
  script: readonly string[],
  said: readonly Said[],
  voice: string,
  seed: number,
): Promise<TimedReading> {
  const random = seededRandom(seed)
  const pieces: Float32Array[] = [new Float32Array(HOUSE_RATE / 2)]
  const out: TimedReading['said'] = []
  let at = pieces[0]!.length
  for (const what of said) {
    const text = 'adLib' in what ? what.adLib : script[what.sentence]!
    const { samples, words } = await spoken(text, voice)
    const cut = 'adLib' in what || !what.share ? samples : samples.slice(0, Math.floor(samples.length * what.share))
    const pause = new Float32Array(Math.round((0.15 + random() * random() * 1.05) * HOUSE_RATE))
    pieces.push(cut, pause)
    const start = at / HOUSE_RATE
    out.push({ what, start, end: start + cut.length / HOUSE_RATE, words: words?.map((word) => word + start) ?? null })
    at += cut.length + pause.length
  }
  return { samples: joined(pieces), said: out }
}

const RATIO = 3
const kept = new Map<string, { samples: Float32Array; words: Seconds[] | null }>()

/** One sentence without the silence around it. The voice's 16 kHz are made 48 by straight lines, as any old line would. */
async function spoken(text: string, voice: string) {
  const key = `${voice} ${text}`
  const known = kept.get(key)
  if (known) return known
  let samples = new Float32Array(0)
  const sentence = { words: text.split(' ').map((said) => ({ said, stressed: false })) }
  await flite.say([sentence], { voice, rate: 165, pitch: 50, pause: 0 }, (one) => {
    samples = raised(one.samples)
  })
  const loudest = samples.reduce((max, value) => Math.max(max, Math.abs(value)), 0)
  const audible = (value: number) => Math.abs(value) > loudest * 0.02
  const from = samples.findIndex(audible)
  const made = {
    samples: samples.slice(from, samples.findLastIndex(audible) + 1),
    words: (await wordStarts(text, voice))?.map((start) => Math.max(0, start - from / HOUSE_RATE)) ?? null,
  }
  kept.set(key, made)
  return made
}

function raised(samples: Float32Array): Float32Array<ArrayBuffer> {
  return Float32Array.from({ length: (samples.length - 1) * RATIO }, (_, i) => {
    const place = Math.floor(i / RATIO)
    const share = (i % RATIO) / RATIO
    return samples[place]! * (1 - share) + samples[place + 1]! * share
  })
}

/** Where words begin by the engine's own list of phones: a word has as many as when it stands alone. */
async function wordStarts(text: string, voice: string): Promise<Seconds[] | null> {
  const phones = await phonesOf(text, voice)
  const counts: number[] = []
  for (const word of text.split(' '))
    counts.push((await phonesOf(word, voice)).filter(({ name }) => name !== 'pau').length)
  const spokenPhones = phones
    .map((phone, i) => ({ ...phone, start: phones[i - 1]?.end ?? 0 }))
    .filter(({ name }) => name !== 'pau')
  if (counts.reduce((sum, count) => sum + count, 0) !== spokenPhones.length) return null
  let passed = 0
  return counts.map((count) => {
    const start = spokenPhones[passed]!.start
    passed += count
    return start
  })
}

const phoneLists = new Map<string, { name: string; end: Seconds }[]>()
async function phonesOf(text: string, voice: string) {
  const key = `${voice} ${text}`
  const known = phoneLists.get(key)
  if (known) return known
  const list = await runProgram('flite', ['-voice', voice, '-psdur', '-t', `${text} `, 'none'], { limit: 20 })
  const phones = list
    .toString('utf8')
    .trim()
    .split(/\s+/)
    .map((part) => {
      const [name, end] = part.split(':')
      return { name: name!, end: Number(end) }
    })
  phoneLists.set(key, phones)
  return phones
}

/** Adds noise so many dB below the speech's mean power. */
export function noisy(samples: Float32Array, ratio: Decibels, seed: number): Float32Array {
  const random = seededRandom(seed)
  const loud = samples.filter((value) => Math.abs(value) > 0.01)
  const power = loud.reduce((sum, value) => sum + value * value, 0) / Math.max(1, loud.length)
  // Uniform noise has a third of its peak's square as power.
  const peak = Math.sqrt(power * 3) * toFactor(-ratio)
  return samples.map((value) => value + (random() * 2 - 1) * peak)
}
