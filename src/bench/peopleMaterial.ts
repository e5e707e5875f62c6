import { existsSync } from 'node:fs'
import { mkdir, mkdtemp, readdir, readFile, rename, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { seededRandom } from '@/core/random'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { runProgram } from '@/media/process'
import { joined } from '@/media/speech/reading'

/** Sentences that people say, with their texts: announcements of a telephone exchange, from Debian's packages. */

export const PEOPLE = ['en', 'fr', 'es', 'it', 'ru'] as const
export type PeoplesLanguage = (typeof PEOPLE)[number]

export interface Announcement {
  text: string
  path: string
}

/** Of a reading that was put together, when each sentence begins and ends. */
export interface Stitched {
  script: string[]
  samples: Float32Array
  said: { sentence: number; start: Seconds; end: Seconds }[]
}

/** Shorter ones are words, longer ones several sentences. */
const LENGTH = { least: 1.2, most: 15 }
const WORDS = { least: 3, most: 30 }
const PLACE = resolve('.yarn-step', 'bench', 'people')

/** Announcements of one language, fetched when they are first asked for. Throws where Debian's packages can't be had. */
export async function announcements(language: PeoplesLanguage): Promise<Announcement[]> {
  const folder = join(PLACE, language)
  if (!existsSync(folder)) await fetchPackages(language, folder)
  const doc = join(folder, 'usr/share/doc', `asterisk-core-sounds-${language}`, `core-sounds-${language}.txt.gz`)
  const texts = gunzipSync(await readFile(doc)).toString('utf8')
  const sounds = join(folder, 'usr/share/asterisk/sounds')
  const [voice] = await readdir(sounds)
  const made: Announcement[] = []
  for (const line of texts.split('\n')) {
    const [, name, text] = /^([\w/-]+):(.+)$/.exec(line) ?? []
    // What is told about sounds stands in brackets, and figures are said in more than one way.
    if (!name || !text || /[[\](){}<>\d/#*]/.test(text)) continue
    const words = text.trim().split(/\s+/).length
    const path = join(sounds, voice!, `${name}.g722`)
    if (words >= WORDS.least && words <= WORDS.most && existsSync(path))
      made.push({ text: text.trim().replace(/\s+/g, ' '), path })
  }
  return made
}

async function fetchPackages(language: PeoplesLanguage, folder: string): Promise<void> {
  const work = await mkdtemp(join(tmpdir(), 'yarn-step-people-'))
  try {
    const names = [`asterisk-core-sounds-${language}`, `asterisk-core-sounds-${language}-g722`]
    await runProgram('env', ['-C', work, 'apt-get', 'download', ...names], { limit: 300 })
    // In its place only when all of it is there.
    const draft = `${folder}.draft`
    await rm(draft, { recursive: true, force: true })
    await mkdir(draft, { recursive: true })
    for (const file of await readdir(work)) await runProgram('dpkg-deb', ['-x', join(work, file), draft], { limit: 60 })
    await rename(draft, folder)
  } finally {
    await rm(work, { recursive: true, force: true })
  }
}

/** At the house rate. */
async function decoded(path: string): Promise<Float32Array> {
  const bytes = await runProgram(
    'ffmpeg',
    ['-v', 'error', '-i', path, '-ac', '1', '-ar', String(HOUSE_RATE), '-f', 'f32le', '-'],
    { limit: 60 },
  )
  return new Float32Array(Uint8Array.from(bytes).buffer)
}

function trimmed(samples: Float32Array): Float32Array {
  const loudest = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  const isHeard = (value: number) => Math.abs(value) > loudest * 0.02
  return samples.slice(samples.findIndex(isHeard), samples.findLastIndex(isHeard) + 1)
}

/** So many minutes of announcements by a seed, none twice, with pauses of 0.15 to 1.2 s between them. */
export async function stitched(all: readonly Announcement[], minutes: number, seed: number): Promise<Stitched> {
  const random = seededRandom(seed)
  const order = shuffled(all, random)
  const pieces: Float32Array[] = [new Float32Array(HOUSE_RATE / 2)]
  const out: Stitched = { script: [], samples: new Float32Array(0), said: [] }
  let at = pieces[0]!.length
  const seen = new Set<string>()
  for (const { text, path } of order) {
    if (at / HOUSE_RATE > minutes * 60) break
    if (seen.has(text.toLowerCase())) continue
    const samples = trimmed(await decoded(path))
    const length = samples.length / HOUSE_RATE
    if (length < LENGTH.least || length > LENGTH.most) continue
    seen.add(text.toLowerCase())
    const pause = new Float32Array(Math.round((0.15 + random() * random() * 1.05) * HOUSE_RATE))
    const start = at / HOUSE_RATE
    out.said.push({ sentence: out.script.length, start, end: start + samples.length / HOUSE_RATE })
    out.script.push(text)
    pieces.push(samples, pause)
    at += samples.length + pause.length
  }
  return { ...out, samples: joined(pieces) }
}

function shuffled<T>(all: readonly T[], random: () => number): T[] {
  const out = [...all]
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1))
    ;[out[i], out[j]] = [out[j]!, out[i]!]
  }
  return out
}
