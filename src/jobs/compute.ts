import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import type { JobResult } from '@/core/messages/job'
import type { Computation, ComputationKind, JobInputOf } from '@/core/messages/jobInput'
import { balanceOf } from '@/core/course/courseBalance'
import { tellApart } from '@/core/measure/speechOrMusic'
import { matchPages } from '@/core/picture/matchPages'
import type { MediaInfo } from '@/core/messages/media'
import { EFFECTS } from '@/core/sounds/effects'
import { UserError } from '@/core/userError'
import { playWish } from '@/media/instruments'
import { HOUSE_RATE } from '@/core/units'
import { timedReading } from '@/media/speech/alignment'
import { wordsOfTake } from '@/media/speech/takeWords'
import { cleanMedia } from '@/media/cleaning'
import { importMedia } from '@/media/import/import'
import { speechShareOf } from '@/media/speech/speechShare'
import { asInFile, withSoundTrack } from '@/media/import/soundTrack'
import { soundsOf } from '@/media/lessonMedia'
import { pagePrints } from '@/media/import/decks/pagePrints'
import { PARTS } from '@/media/store/store'
import { withWorkFolder } from '@/media/store/workFolder'
import { findScenes } from '@/media/video/scenes'
import { readAloud } from '@/media/speech/reading'
import { languageOf } from '@/media/speech/voices'
import { say } from '@/messages/say'
import { assetStore, mediaStore } from './places'
import type { WorkOptions } from './workOptions'

/** What something is computed of; the lesson goes with a balance, since nothing here asks the database. */
export type ComputeWork = Exclude<Computation, { kind: 'balance' }> | { kind: 'balance'; id: string; lesson: Lesson }

/** Computes what is asked for. Takes long, and may be done in a thread of its own. */
export async function compute(input: ComputeWork, options: WorkOptions): Promise<JobResult<ComputationKind>> {
  switch (input.kind) {
    case 'clean':
      return clean(input, options)
    case 'read':
      return read(input, options)
    case 'align':
      return align(input, options)
    case 'scenes':
      return scenes(input)
    case 'soundTrack':
      return { info: await withSoundTrack(mediaStore(), input.media, input.track, options) }
    case 'asInFile':
      return { info: await asInFile(mediaStore(), input.media, options) }
    case 'match':
      return match(input)
    case 'roles':
      return roles(input)
    case 'compose':
      return asMedia(await playWish(input.wish), `Made bed ${input.wish.kind}.wav`)
    case 'effect':
      return effect(input)
    case 'balance':
      return balance(input)
  }
}

async function clean({ media, cleanUp, room }: JobInputOf<'clean'>, options: WorkOptions): Promise<JobResult<'clean'>> {
  const store = mediaStore()
  const key = await cleanMedia(store, media, cleanUp, room ? { media: room } : null, options)
  return { info: await store.info(key) }
}

async function read(
  { script, around, reading, pronunciations }: JobInputOf<'read'>,
  options: WorkOptions,
): Promise<JobResult<'read'>> {
  const read = await readAloud(script, reading, pronunciations, assetStore(), {
    ...options,
    around: around ?? undefined,
  })
  const { info } = await asMedia(writeWav([read.samples], HOUSE_RATE), 'Reading.wav')
  return { info, words: await timedReading(mediaStore(), info.hash, script, read, await languageOf(reading.voice)) }
}

const balance = async ({ id, lesson }: Extract<ComputeWork, { kind: 'balance' }>): Promise<JobResult<'balance'>> =>
  balanceOf(id, lesson, await soundsOf(lesson, mediaStore()))

async function effect({ effect: id }: JobInputOf<'effect'>): Promise<JobResult<'effect'>> {
  const made = EFFECTS.find((one) => one.id === id)
  if (!made) throw new UserError(say('server.thereIsNoSuchSound'))
  return asMedia(writeWav([made.make()], HOUSE_RATE), `${say(`effects.${made.id}`)}.wav`)
}

/** Takes the bytes of a WAV file into the store. */
async function asMedia(wav: Uint8Array, name: string): Promise<{ info: MediaInfo }> {
  return withWorkFolder(async (folder) => {
    const path = join(folder, 'sound.wav')
    await writeFile(path, wav)
    return { info: await importMedia(mediaStore(), path, name) }
  })
}

async function scenes({ media, from, to }: JobInputOf<'scenes'>): Promise<JobResult<'scenes'>> {
  const path = await mediaStore().local(media, PARTS.proxy)
  return { scenes: (await findScenes(path)).filter((at) => at > from && at < to) }
}

async function match({ old, now }: JobInputOf<'match'>): Promise<JobResult<'match'>> {
  const store = mediaStore()
  const [before, after] = await Promise.all([pagePrints(store, old), pagePrints(store, now)])
  return { pages: matchPages(before, after) }
}

async function roles({ sounds }: JobInputOf<'roles'>): Promise<JobResult<'roles'>> {
  const store = mediaStore()
  const told: { item: string; share: number }[] = []
  for (const item of sounds) {
    const analysis = await store.analysis(item)
    if (analysis) told.push({ item, share: await speechShareOf(store, item, analysis) })
  }
  return tellApart(told)
}

const align = (input: JobInputOf<'align'>, options: WorkOptions): Promise<JobResult<'align'>> =>
  wordsOfTake(mediaStore(), assetStore(), input, options)
