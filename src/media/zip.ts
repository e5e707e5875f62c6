import type { Readable } from 'node:stream'
import { promisify } from 'node:util'
import yauzl, { type Entry, type ZipFile } from 'yauzl'

/** What is in zips that people bring; nothing of it is written anywhere here. */

/** Rejects where it is no sound zip. The caller closes it. */
export const openZip = (path: string): Promise<ZipFile> =>
  promisify<string, yauzl.Options, ZipFile>(yauzl.open)(path, { lazyEntries: true, autoClose: false })

/** Entries by name, without unpacking any. Rejects with `refuse`'s error where there are more than `most`, or two of one name. */
export function entriesOf(
  zip: ZipFile,
  most: number,
  refuse: (why: 'many' | 'twice') => Error,
): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>()
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      if (entries.size >= most) return reject(refuse('many'))
      if (entries.has(entry.fileName)) return reject(refuse('twice'))
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.on('end', () => resolve(entries))
    zip.on('error', reject)
    zip.readEntry()
  })
}

export const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  promisify<Entry, Readable>(zip.openReadStream.bind(zip) as never)(entry)

export async function bytesOf(zip: ZipFile, entry: Entry): Promise<Buffer> {
  const parts: Buffer[] = []
  for await (const part of await streamOf(zip, entry)) parts.push(part as Buffer)
  return Buffer.concat(parts)
}
