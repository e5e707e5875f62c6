import { buffer } from 'node:stream/consumers'
import type { Readable } from 'node:stream'
import yazl from 'yazl'
import { writeWav } from '@/core/formats/wav'
import { tones } from '@/core/testing/signals'
import { hashOf } from './client'
import type { HostileFile } from './hostileMedia'
import { documentOf } from '@/core/lesson/telling'
import { lessonOver, SONG, TAKE } from '@/core/testing/lessons'

/** Saved copies made to break whoever opens them. By a seed, always the same. */

type Random = () => number
type Json = null | boolean | number | string | Json[] | { [key: string]: Json }
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!
const below = (random: Random, most: number) => Math.floor(random() * most)

const sound = writeWav([tones([[-20, 2]])], 48000)
const hash = hashOf(sound)

/** A lesson of three steps over one short sound, with music. */
function goodLesson(): Json {
  const lesson = documentOf(lessonOver([0, 0.6, 1.2, 1.8]))
  const steps = lesson.steps.map((step) => ({ ...step, picture: { kind: 'card', lines: ['Knots'] } }))
  return JSON.parse(
    JSON.stringify({ ...lesson, steps })
      .replaceAll(TAKE, hash)
      .replaceAll(SONG, hash),
  ) as Json
}

export async function hostileArchives(count: number, random: Random): Promise<HostileFile[]> {
  const made: HostileFile[] = []
  for (let i = 0; i < count; i++) made.push({ name: `${i} copy.zip`, bytes: await pick(random, KINDS)(random) })
  return made
}

const KINDS: ((random: Random) => Promise<Uint8Array>)[] = [
  // A document in which something is not as it should be.
  async (random) => zipOf(wrong(goodLesson(), 1 + below(random, 4), random)),
  async (random) => zipOf(wrong(goodLesson(), 1 + below(random, 4), random)),
  async (random) => zipOf(wrong(goodLesson(), 30, random)),
  // Steps of a day each; very many steps.
  async () => zipOf(withSteps(goodLesson(), 50, { kind: 'fixed', length: 86_400 })),
  async () => zipOf(withSteps(goodLesson(), 2500, { kind: 'fixed', length: 1 })),
  // The music's part beyond its file.
  async (random) => zipOf(withBed(goodLesson(), pick(random, [500, 86_400, 1.9999]), pick(random, [null, 0, 1]))),
  // Files: missing, changed, twice, under names that climb.
  async () => zipOf(goodLesson(), { media: null }),
  async () => zipOf(goodLesson(), { media: Buffer.from('something else') }),
  async () => zipOf(goodLesson(), { twice: true }),
  async () => climbing(await zipOf(goodLesson(), { extra: 'aa/climb.txt' })),
  // A document that is small in the archive and huge outside.
  async () => zipOf({ title: 'x'.repeat(80_000_000) }),
  async (random) => cut(await zipOf(goodLesson()), random),
  async (random) => turned(await zipOf(goodLesson()), random),
  async () => Buffer.from('PK\u0003\u0004 nothing'),
]

interface Parts {
  media?: Buffer | null
  twice?: boolean
  extra?: string
}

function zipOf(lesson: Json, { media = Buffer.from(sound), twice = false, extra }: Parts = {}): Promise<Uint8Array> {
  const zip = new yazl.ZipFile()
  const document = Buffer.from(JSON.stringify(lesson))
  zip.addBuffer(document, 'lesson.json')
  if (twice) zip.addBuffer(document, 'lesson.json')
  const list = [{ hash, file: `${hash}.wav`, name: 'Reading.wav' }]
  zip.addBuffer(Buffer.from(JSON.stringify(list)), 'media/media.json')
  if (media) zip.addBuffer(media, `media/${hash}.wav`)
  if (extra) zip.addBuffer(Buffer.from('x'), extra)
  zip.end()
  return buffer(zip.outputStream as Readable)
}

const ODD: Json[] = [
  null,
  -1,
  0,
  1e308,
  1e-308,
  2 ** 53,
  '',
  'x'.repeat(5000),
  '\0',
  '\ud83d',
  [],
  {},
  true,
  '__proto__',
]

/** Puts odd values in the place of some that are there, takes some away, and doubles others. */
function wrong(json: Json, times: number, random: Random): Json {
  for (let i = 0; i < times; i++) {
    const places = placesIn(json)
    const { parent, key } = pick(random, places)
    const kind = below(random, 4)
    if (Array.isArray(parent)) {
      if (kind === 0) parent.splice(key as number, 1)
      else if (kind === 1) parent.push(parent[key as number]!)
      else parent[key as number] = pick(random, ODD)
    } else if (kind === 0) Reflect.deleteProperty(parent, key)
    else parent[key] = pick(random, ODD)
  }
  return json
}

interface Place {
  parent: Json[] | { [key: string]: Json }
  key: string | number
}

function placesIn(json: Json): Place[] {
  if (typeof json !== 'object' || json === null) return []
  const parent = json as { [key: string]: Json }
  const keys: (string | number)[] = Array.isArray(json) ? json.map((_, i) => i) : Object.keys(json)
  return keys.flatMap((key) => [{ parent, key }, ...placesIn(parent[key as string]!)])
}

function withSteps(json: Json, count: number, length: Json): Json {
  const lesson = json as { steps: { [key: string]: Json }[] }
  const [step] = lesson.steps
  return {
    ...lesson,
    steps: Array.from({ length: count }, (_, i) => ({ ...step!, id: `s${i}`, length })),
  }
}

function withBed(json: Json, from: number, to: number | null): Json {
  const lesson = json as { bedCues: { [key: string]: Json }[]; [key: string]: Json }
  return { ...lesson, bedCues: lesson.bedCues.map((cue) => ({ ...cue, from, to })) }
}

const climbing = (bytes: Uint8Array) =>
  Buffer.from(Buffer.from(bytes).toString('latin1').replaceAll('aa/climb.txt', '../climb.txt'), 'latin1')

const cut = (bytes: Uint8Array, random: Random) => bytes.slice(0, below(random, bytes.length))

function turned(bytes: Uint8Array, random: Random): Uint8Array {
  const copy = Uint8Array.from(bytes)
  for (let i = 0; i < 10; i++) copy[below(random, copy.length)]! ^= 1 << below(random, 8)
  return copy
}
