import { createWriteStream } from 'node:fs'
import { mkdtemp, readFile, rename, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { promisify } from 'node:util'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import yazl from 'yazl'
import { z } from 'zod'
import { mediaOf, type Lesson } from '@/core/lesson/document'
import { readLesson } from '@/core/lesson/upgrade'
import { UserError } from '@/core/userError'
import { importMedia, type ImportOptions } from './import'
import { hashFile, PARTS, type MediaStore } from './store'

/**
 * A lesson archive: a zip with `lesson.json` (the document) and `media/` (original files named by content hash,
 * described by `media/media.json`).
 */
const mediaListSchema = z.array(
  z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/), file: z.string(), name: z.string() }),
)

const MOST_ENTRIES = 10_000
const MOST_BYTES = 64 * 1024 ** 3

export async function writeArchive(lesson: Lesson, store: MediaStore, out: string): Promise<void> {
  const zip = new yazl.ZipFile()
  const list: z.infer<typeof mediaListSchema> = []
  for (const hash of [...mediaOf(lesson)].sort()) {
    const { extension, name } = await store.info(hash)
    const file = `${hash}.${extension}`
    list.push({ hash, file, name })
    zip.addFile(store.path(hash, PARTS.original), `media/${file}`, { compress: false })
  }
  zip.addBuffer(Buffer.from(JSON.stringify(lesson, null, 1)), 'lesson.json')
  zip.addBuffer(Buffer.from(JSON.stringify(list, null, 1)), 'media/media.json')
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(`${out}.part`))
  await rename(`${out}.part`, out)
}

/** Reads a lesson and takes its files into the store. Nothing outside the store is written. */
export async function readArchive(path: string, store: MediaStore, options: ImportOptions = {}): Promise<Lesson> {
  const work = await mkdtemp(join(tmpdir(), 'yarn-step-'))
  try {
    const found = await unpack(path, work)
    const lesson = parseAs(readLesson, await readFile(found('lesson.json'), 'utf8'))
    const list = parseAs((json) => mediaListSchema.parse(json), await readFile(found('media/media.json'), 'utf8'))
    const wanted = list.filter(({ hash }) => mediaOf(lesson).has(hash))
    for (const [i, { hash, file, name }] of wanted.entries()) {
      const original = found(`media/${file}`)
      if ((await hashFile(original)) !== hash)
        throw new UserError(`This copy is damaged: "${name}" in it has changed. Save the copy again.`)
      await importMedia(store, original, name, options)
      options.onProgress?.((i + 1) / wanted.length)
    }
    return lesson
  } finally {
    await rm(work, { recursive: true, force: true })
  }
}

/** Unpacks into numbered files, so that no name in the archive ever becomes a path. */
async function unpack(path: string, work: string): Promise<(name: string) => string> {
  const files = new Map<string, string>()
  const zip = await openZip(path)
  const openEntry = promisify<Entry, NodeJS.ReadableStream>(zip.openReadStream.bind(zip) as never)
  let bytes = 0
  await new Promise<void>((resolve, reject) => {
    const take = async (entry: Entry) => {
      bytes += entry.uncompressedSize
      if (files.size > MOST_ENTRIES || bytes > MOST_BYTES) throw new UserError('This copy is too large to be opened.')
      if (!entry.fileName.endsWith('/')) {
        const target = join(work, String(files.size))
        files.set(entry.fileName, target)
        await pipeline(await openEntry(entry), createWriteStream(target))
      }
      zip.readEntry()
    }
    zip.on('entry', (entry: Entry) => void take(entry).catch(reject))
    zip.on('end', resolve)
    zip.on('error', reject)
    zip.readEntry()
  })
    .catch((error: Error) => {
      if (error instanceof UserError) throw error
      const climbs = /relative path|absolute path|invalid characters/.test(error.message)
      throw new UserError(
        climbs
          ? 'This archive holds paths that lead out of it, so it was not opened. Use a copy saved by this application.'
          : 'This archive is damaged. Save the copy again.',
        { cause: error },
      )
    })
    .finally(() => zip.close())
  return (name) => {
    const file = files.get(name)
    if (!file)
      throw new UserError(`This is not a saved lesson: there is no ${name} in it. Choose a file made by "Save a copy".`)
    return file
  }
}

async function openZip(path: string): Promise<ZipFile> {
  try {
    const zip = await promisify<string, yauzl.Options, ZipFile>(yauzl.open)(path, {
      lazyEntries: true,
      autoClose: false,
    })
    return zip
  } catch (error) {
    throw new UserError('This is not a saved lesson, or it is damaged. Choose a file made by "Save a copy".', {
      cause: error,
    })
  }
}

function parseAs<T>(read: (json: unknown) => T, text: string): T {
  try {
    return read(JSON.parse(text))
  } catch (error) {
    throw new UserError('The lesson in this copy is damaged or was made by a newer version. Save the copy again.', {
      cause: error,
    })
  }
}
