import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import type { Alignment } from '@/core/narration/align/alignment'
import { readScript } from '@/core/narration/words/script'
import { seededRandom } from '@/core/random'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { alignMedia } from '@/media/speech/alignment'
import { importMedia } from '@/media/import/import'
import { openStore } from '@/media/store/store'
import { captionFaults } from './captionFaults'
import { cpuWithChildren } from './cpuTime'
import { noisy, readingOf, sentencesOf, type Said, type TimedReading } from './alignMaterial'
import { announcements, PEOPLE, stitched, type Stitched } from './peopleMaterial'
import { median } from './statistics'
import { folderObjects } from '@/media/store/folderObjects'

const COUNT = 60
const AD_LIBS = [
  'Let me just have a sip of water here.',
  'Sorry about that, somebody was at the door.',
  'By the way, my grandfather used to tell this differently.',
]

/** How near alignment comes to known times, and how quick it is. */
export async function measureAlignment(work: string): Promise<void> {
  for (const voice of ['slt', 'rms', 'awb']) {
    const script = sentencesOf(COUNT, voice.charCodeAt(0))
    const straight = await readingOf(
      script,
      script.map((_, sentence) => ({ sentence })),
      voice,
      5,
    )
    for (const ratio of [null, 20, 10]) {
      const samples = ratio === null ? straight.samples : noisy(straight.samples, ratio, 9)
      const found = await aligned(work, script, samples)
      report(`${voice}, ${ratio === null ? 'clean' : `${ratio} dB noise`}`, starts(straight, found), found)
    }
    const said = mistakes(COUNT, voice.charCodeAt(1))
    const reading = await readingOf(script, said, voice, 7)
    const found = await aligned(work, script, reading.samples)
    report(`${voice}, with mistakes`, starts(reading, found), found)
    reportMistakes(reading, found, COUNT)
  }
  await measurePeople(work)
  await measureTries(work)
  await measureSpeed(work)
}

const MINUTES = 4
const PEOPLE_SEEDS = [1, 2]
/** So many of the words are taken as not found when captions are made. */
const UNFOUND = 0.2
/** Of a wrong sentence that shares more of its words with what is said there, belief is no fault. */
const NEARLY_SAID = 0.4

/** People in several languages: how many of their sentences are lost, and of a script of others how many are believed. */
async function measurePeople(work: string): Promise<void> {
  for (const language of PEOPLE) {
    const all = await announcements(language)
    const total = { said: 0, lost: 0, wrong: 0, believed: 0, captions: 0, misplaced: 0, short: 0 }
    const errors: Seconds[] = []
    for (const seed of PEOPLE_SEEDS) {
      const { script, samples, said } = await stitched(all, MINUTES, seed)
      const found = await aligned(work, script, samples, language)
      for (const { sentence, start } of said) {
        const one = found.sentences[sentence]!
        if (one.status === 'spoken') errors.push(Math.abs(one.start - start))
        else total.lost++
      }
      const made = captionFaults(script, found, language, UNFOUND, seed)
      for (const key of ['captions', 'misplaced', 'short'] as const) total[key] += made[key]
      const others = all
        .map(({ text }) => text)
        .filter((text) => !script.includes(text))
        .slice(0, script.length)
      const wrong = await aligned(work, others, samples, language)
      total.said += said.length
      total.wrong += others.length
      total.believed += wrong.sentences.filter(
        (one) => one.status === 'spoken' && shareSaid(others[one.sentence]!, one, script, said) < NEARLY_SAID,
      ).length
    }
    console.log(
      `people, ${language.padEnd(10)} lost ${total.lost} of ${total.said} (${share(total.lost, total.said)}); starts ${(median(errors) * 1000).toFixed(0)} ms, ${share(errors.filter((error) => error <= 0.15).length, errors.length)} within 150; of a wrong script believed ${total.believed} of ${total.wrong}; captions without a fifth of the words: ${total.misplaced} misplaced, ${total.short} short of ${total.captions}`,
    )
  }
}

/** The share of a text's words that are said about there. */
function shareSaid(text: string, { start, end }: Stretch, script: readonly string[], said: Stitched['said']): number {
  const here = said.filter((one) => one.start < end + 1 && one.end > start - 1)
  const heard = new Set(here.flatMap(({ sentence }) => wordsIn(script[sentence]!)))
  const words = wordsIn(text)
  return words.filter((word) => heard.has(word)).length / words.length
}

const wordsIn = (text: string): string[] => text.toLowerCase().match(/[\p{L}']+/gu) ?? []

interface Stretch {
  start: Seconds
  end: Seconds
}

/** A complete reading with a try from its beginning that breaks off anywhere, before it or after it. */
async function measureTries(work: string): Promise<void> {
  const script = sentencesOf(4, 42)
  const whole = script.map((_, sentence) => ({ sentence }))
  for (const voice of ['slt', 'awb'])
    for (const place of ['before', 'after'] as const) {
      const lost: string[] = []
      let count = 0
      for (let last = 0; last < script.length; last++)
        for (const part of [0.2, 0.45, 0.7, 0.88]) {
          const broken: Said[] = [...whole.slice(0, last), { sentence: last, share: part }]
          const said = place === 'before' ? [...broken, ...whole] : [...whole, ...broken]
          const reading = await readingOf(script, said, voice, ++count)
          const found = await aligned(work, script, reading.samples)
          const isLost = found.sentences.some((one) => {
            const complete = reading.said.filter(
              ({ what }) => 'sentence' in what && what.sentence === one.sentence && !what.share,
            )
            return one.status !== 'spoken' || complete.every(({ start }) => Math.abs(start - one.start) > 0.25)
          })
          if (isLost) lost.push(`sentence ${last + 1} at ${part}`)
        }
      console.log(
        `${voice}, a try broken off ${place}: ${lost.length} of ${count} lose a complete saying ${lost.join(', ')}`,
      )
    }
}

/** An hour. */
async function measureSpeed(work: string): Promise<void> {
  const script = sentencesOf(900, 77)
  const reading = await readingOf(
    script,
    script.map((_, sentence) => ({ sentence })),
    'slt',
    5,
  )
  const length = reading.samples.length / HOUSE_RATE
  const { store, part } = await storeWith(work, reading.samples)
  const before = cpuWithChildren()
  const start = performance.now()
  const found = await alignMedia(store, part, readScript(script.join('\n'), { byLine: true }), 'en')
  const cpu = cpuWithChildren() - before
  report(`${(length / 60).toFixed(0)} minutes`, starts(reading, found), found)
  console.log(
    `${(length / ((performance.now() - start) / 1000)).toFixed(0)} times real time, ${(length / cpu).toFixed(0)} by CPU with the synthesiser, peak memory ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB (with the material)`,
  )
}

async function storeWith(work: string, samples: Float32Array) {
  const folder = join(work, 'align')
  await mkdir(folder, { recursive: true })
  const path = join(folder, 'reading.wav')
  await writeFile(path, writeWav([samples], HOUSE_RATE))
  const store = openStore(folderObjects(join(folder, 'media')))
  const info = await importMedia(store, path, 'reading.wav')
  return { store, part: { media: info.hash, from: 0, to: info.length! } }
}

async function aligned(
  work: string,
  script: readonly string[],
  samples: Float32Array,
  language = 'en',
): Promise<Alignment> {
  const { store, part } = await storeWith(work, samples)
  return alignMedia(store, part, readScript(script.join('\n'), { byLine: true }), language)
}

/** Skips, tries that were broken off or repeated, and asides, about one in five sentences. */
function mistakes(count: number, seed: number): Said[] {
  const random = seededRandom(seed)
  const said: Said[] = []
  for (let sentence = 0; sentence < count; sentence++) {
    const chance = random()
    if (chance < 0.06) continue
    if (chance < 0.12) said.push({ sentence, share: 0.3 + random() * 0.5 })
    else if (chance < 0.18) said.push({ sentence })
    else if (chance < 0.22) said.push({ adLib: AD_LIBS[sentence % AD_LIBS.length]! })
    said.push({ sentence })
  }
  return said
}

interface StartErrors {
  sentences: Seconds[]
  words: Seconds[]
}

/** Errors of sentence and word starts, for the last try of each sentence. A sentence that is not found counts as far off. */
function starts({ said }: TimedReading, { sentences, words }: Alignment): StartErrors {
  const last = new Map<number, TimedReading['said'][number]>()
  for (const one of said) if ('sentence' in one.what && !one.what.share) last.set(one.what.sentence, one)
  const errors: StartErrors = { sentences: [], words: [] }
  for (const [index, truth] of last) {
    const found = sentences[index]!
    errors.sentences.push(found.status === 'spoken' ? Math.abs(found.start - truth.start) : 60)
    const own = words.filter(({ sentence }) => sentence === index)
    truth.words?.forEach((start, i) => errors.words.push(own[i] ? Math.abs(own[i].start - start) : 60))
  }
  return errors
}

function report(name: string, { sentences, words }: StartErrors, { sentences: found }: Alignment): void {
  const milliseconds = (value: Seconds) => `${(value * 1000).toFixed(0)} ms`
  const line = (errors: Seconds[], within: Seconds) =>
    `${milliseconds(median(errors))} / ${milliseconds(quantile(errors, 0.95))} / ${share(errors.filter((error) => error <= within).length, errors.length)}`
  const sure = found.flatMap((one) => (one.status === 'spoken' ? [one.confidence] : []))
  console.log(
    `${name.padEnd(18)} sentences ${line(sentences, 0.15)}   words ${line(words, 0.1)}   confidence ${median(sure).toFixed(2)}`,
  )
}

function reportMistakes({ said }: TimedReading, { sentences, extra }: Alignment, count: number): void {
  const spoken = new Set(said.flatMap(({ what }) => ('sentence' in what ? [what.sentence] : [])))
  const skipped = Array.from({ length: count }, (_, i) => i).filter((i) => !spoken.has(i))
  const told = sentences.flatMap(({ status, sentence }) => (status === 'skipped' ? [sentence] : []))
  const tries = said.filter(
    ({ what }, i) =>
      'sentence' in what &&
      said.slice(i + 1).some((later) => 'sentence' in later.what && later.what.sentence === what.sentence),
  )
  const asides = said.filter(({ what }) => 'adLib' in what)
  const isAt = (a: { start: Seconds; end: Seconds }) => (b: { start: Seconds; end: Seconds }) =>
    Math.min(a.end, b.end) - Math.max(a.start, b.start) > 0.5 * Math.min(a.end - a.start, b.end - b.start)
  const compare = (name: string, truth: { start: Seconds; end: Seconds }[], kind: string) => {
    const found = extra.filter((one) => one.kind === kind)
    const right = found.filter((one) => truth.some(isAt(one))).length
    const hit = truth.filter((one) => found.some(isAt(one))).length
    return `${name}: precision ${share(right, found.length)} of ${found.length}, recall ${share(hit, truth.length)} of ${truth.length}`
  }
  const right = told.filter((i) => skipped.includes(i)).length
  console.log(
    `   skipped: precision ${share(right, told.length)} of ${told.length}, recall ${share(right, skipped.length)} of ${skipped.length}; ${compare('retakes', tries, 'retake')}; ${compare('asides', asides, 'ad-lib')}`,
  )
}

const share = (part: number, whole: number) => (whole === 0 ? '–' : (part / whole).toFixed(2))

function quantile(values: readonly number[], at: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * at))]!
}
