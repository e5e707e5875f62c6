import { createReadStream, createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Entry, ZipFile } from 'yauzl'
import { z } from 'zod'
import { readCourseHead, writeCourseHead, type CourseHead } from '@/core/course/courseCopy'
import { mediaOfEnds, NO_ENDS } from '@/core/course/sharedSteps'
import type { Lesson } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import { storableLesson } from '@/core/lesson/fromOutside'
import { documentOf } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import { withinFiles } from '@/core/lesson/withinFiles'
import { parseStorableJson } from '@/core/text'
import { UserError } from '@/core/userError'
import { decimal } from '@/messages/numbers'
import { say } from '@/messages/say'
import { freeBytes } from './store/disk'
import { importMedia, type ImportOptions } from './import/import'
import { hashFile, PARTS, type MediaStore } from './store/store'
import { withWorkFolder } from './store/workFolder'
import { zipOf, type ZipPart } from './writeZip'
import { bytesOf, entriesOf, openZip, streamOf } from './zip'

/**
 * A lesson archive: a zip with `lesson.json` (the document) and `media/` (original files named by content hash,
 * described by `media/media.json`).
 */
const mediaListSchema = z.array(
  z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/), file: z.string(), name: z.string() }),
)
type MediaList = z.infer<typeof mediaListSchema>

const MOST_ENTRIES = 10_000
const MOST_JSON = 64 * 1024 ** 2

export async function writeArchive(lesson: Lesson, store: MediaStore, out: string): Promise<void> {
  try {
    await pipeline(await archiveOf(documentOf(lesson), mediaOf(lesson), store), createWriteStream(`${out}.part`))
    await rename(`${out}.part`, out)
  } finally {
    await rm(`${out}.part`, { force: true })
  }
}

/**
 * An archive as it is written. The document goes in as it is, so that also one that can't be read can be kept; files that
 * are missing are left out, and the lesson says so when it is opened.
 */
export async function archiveOf(document: unknown, media: Iterable<string>, store: MediaStore): Promise<Readable> {
  return zipOf([...(await mediaParts(media, store)), { name: 'lesson.json', content: asJson(document) }])
}

/**
 * A course in one archive: `course.json` says what it is, `lessons/` has its documents in their order, and what several of
 * them need is in it once.
 */
export async function courseArchiveOf(
  head: CourseHead,
  documents: readonly unknown[],
  media: Iterable<string>,
  store: MediaStore,
): Promise<Readable> {
  return zipOf([
    ...(await mediaParts([...new Set([...media, ...mediaOfEnds(head.ends)])], store)),
    ...documents.map((document, i) => ({ name: lessonName(i), content: asJson(document) })),
    { name: 'course.json', content: asJson(writeCourseHead(head)) },
  ])
}

const lessonName = (index: number) => `lessons/${index + 1}.json`
const asJson = (value: unknown) => JSON.stringify(value, null, 1)

async function mediaParts(media: Iterable<string>, store: MediaStore): Promise<ZipPart[]> {
  const list: MediaList = []
  const files: ZipPart[] = []
  for (const hash of [...media].sort()) {
    if (!(await store.has(hash)) || !(await store.hasPart(hash, PARTS.original))) continue
    const { extension, name } = await store.info(hash)
    const file = `${hash}.${extension}`
    list.push({ hash, file, name })
    const content = async () => createReadStream(await store.local(hash, PARTS.original))
    files.push({ name: `media/${file}`, content })
  }
  return [...files, { name: 'media/media.json', content: asJson(list) }]
}

/** What a saved copy holds: a lesson, or a course with its lessons. */
export interface SavedCopy {
  course: CourseHead | null
  lessons: Lesson[]
}

/** Reads a lesson and takes its files into the store. Nothing outside the store is written. */
export async function readArchive(path: string, store: MediaStore, options: ImportOptions = {}): Promise<Lesson> {
  const { course, lessons } = await readCopy(path, store, options)
  if (!course) return lessons[0]!
  throw new UserError(say('imports.courseNotLesson'))
}

/** The same for a copy of either kind. */
export async function readCopy(path: string, store: MediaStore, options: ImportOptions = {}): Promise<SavedCopy> {
  return withWorkFolder(async (work) => {
    const zip = await openArchive(path)
    try {
      const entries = await entriesOf(zip, MOST_ENTRIES, refusal).catch((error: Error) => {
        throw sentenceFor(error)
      })
      const readJson = async (name: string) => (await jsonOf(zip, entryOf(entries, name))) as unknown
      const isCourse = entries.has('course.json')
      const course = isCourse ? parseAs(readCourseHead, await readJson('course.json')) : null
      const lessons: Lesson[] = []
      for (const name of isCourse ? lessonNames(entries) : ['lesson.json'])
        lessons.push(parseAs((json) => readLesson(json), await readJson(name)))
      const list = parseAs((json) => mediaListSchema.parse(json), await readJson('media/media.json'))
      const needed = new Set(lessons.flatMap((lesson) => [...mediaOf(lesson)]))
      for (const hash of mediaOfEnds(course?.ends ?? NO_ENDS)) needed.add(hash)
      const wanted = list.filter(({ hash }) => needed.has(hash))
      const lengths = await takeFiles(zip, entries, wanted, store, work, options)
      return {
        course,
        lessons: lessons.map((lesson) => storableLesson(withinFiles(lesson, (media) => lengths.get(media)))),
      }
    } finally {
      zip.close()
    }
  })
}

const lessonNames = (entries: ReadonlyMap<string, Entry>): string[] =>
  [...entries.keys()]
    .filter((name) => /^lessons\/\d+\.json$/.test(name))
    .sort((a, b) => parseInt(a.slice('lessons/'.length)) - parseInt(b.slice('lessons/'.length)))

/** Takes files of a copy into the store; returns how long each is. */
async function takeFiles(
  zip: ZipFile,
  entries: ReadonlyMap<string, Entry>,
  wanted: MediaList,
  store: MediaStore,
  work: string,
  options: ImportOptions,
): Promise<Map<string, number | null>> {
  const files = wanted.map(({ file }) => entryOf(entries, `media/${file}`))
  await assertFits(files, work)
  const lengths = new Map<string, number | null>()
  for (const [i, { hash, name }] of wanted.entries()) {
    // What is there by its content need not be unpacked.
    if (await store.has(hash)) {
      lengths.set(hash, (await store.info(hash)).length)
      continue
    }
    // Numbered, so that no name in the archive ever becomes a path.
    const original = join(work, String(i))
    await unpack(zip, files[i]!, original)
    if ((await hashFile(original)) !== hash) throw new UserError(say('imports.copyDamaged', { name }))
    lengths.set(hash, (await importMedia(store, original, name, options)).length)
    await rm(original)
    options.onProgress?.((i + 1) / wanted.length)
  }
  return lengths
}

async function openArchive(path: string): Promise<ZipFile> {
  try {
    return await openZip(path)
  } catch (error) {
    throw new UserError(say('imports.notALesson'), {
      cause: error,
    })
  }
}

const refusal = (why: 'many' | 'twice') =>
  new UserError(why === 'many' ? say('imports.copyHasTooManyFiles') : say('imports.archiveDamaged'))

function sentenceFor(error: Error): Error {
  if (error instanceof UserError || (error as NodeJS.ErrnoException).code === 'ENOSPC') return error
  const climbs = /relative path|absolute path|invalid characters/.test(error.message)
  return new UserError(climbs ? say('imports.archiveLeadsOut') : say('imports.archiveDamaged'), { cause: error })
}

function entryOf(entries: ReadonlyMap<string, Entry>, name: string): Entry {
  const entry = entries.get(name)
  if (entry) return entry
  throw new UserError(
    name.endsWith('.json') ? say('imports.lessonPartMissing', { name }) : say('imports.archiveDamaged'),
  )
}

/** Room is needed for the files themselves, and about as much again for what is made of them. */
async function assertFits(files: readonly Entry[], folder: string): Promise<void> {
  const bytes = files.reduce((sum, { uncompressedSize }) => sum + uncompressedSize, 0)
  const free = await freeBytes(folder)
  if (2 * bytes <= free) return
  const inGigabytes = (count: number) => decimal(count / 1e9)
  throw new UserError(say('imports.copyTooLarge', { bytes: inGigabytes(bytes), free: inGigabytes(free / 2) }))
}

async function unpack(zip: ZipFile, entry: Entry, out: string): Promise<void> {
  try {
    await pipeline(await streamOf(zip, entry), createWriteStream(out))
  } catch (error) {
    throw sentenceFor(error as Error)
  }
}

async function jsonOf(zip: ZipFile, entry: Entry): Promise<unknown> {
  if (entry.uncompressedSize > MOST_JSON) throw new UserError(say('imports.lessonTooLarge'))
  const bytes = await bytesOf(zip, entry).catch((error: Error) => {
    throw sentenceFor(error)
  })
  return parseAs(parseStorableJson, bytes.toString('utf8'))
}

function parseAs<I, T>(read: (json: I) => T, json: I): T {
  try {
    return read(json)
  } catch (error) {
    throw new UserError(say('imports.lessonDamaged'), {
      cause: error,
    })
  }
}
