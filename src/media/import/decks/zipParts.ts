import { promisify } from 'node:util'
import type { Readable } from 'node:stream'
import yauzl, { type Entry, type ZipFile } from 'yauzl'

/** Far more than the text of any deck. */
const MOST_PART = 64 * 1024 ** 2 // bytes
const MOST_PARTS = 20_000

/** The text parts of a zip by name; those that match `wanted` alone are unpacked. Throws where it is no sound zip. */
export async function readZipParts(path: string, wanted: RegExp): Promise<Map<string, string>> {
  const zip = await promisify<string, yauzl.Options, ZipFile>(yauzl.open)(path, {
    lazyEntries: true,
    autoClose: false,
  })
  try {
    const parts = new Map<string, string>()
    let left = MOST_PART
    for (const entry of await entriesOf(zip)) {
      if (!wanted.test(entry.fileName)) continue
      left -= entry.uncompressedSize
      if (left < 0) throw new Error('the text of this deck is too large')
      parts.set(entry.fileName, await textOf(zip, entry))
    }
    return parts
  } finally {
    zip.close()
  }
}

function entriesOf(zip: ZipFile): Promise<Entry[]> {
  return new Promise((resolve, reject) => {
    const entries: Entry[] = []
    zip.on('entry', (entry: Entry) => {
      if (entries.push(entry) > MOST_PARTS) reject(new Error('too many parts'))
      else zip.readEntry()
    })
    zip.on('end', () => resolve(entries))
    zip.on('error', reject)
    zip.readEntry()
  })
}

async function textOf(zip: ZipFile, entry: Entry): Promise<string> {
  const stream = await promisify<Entry, Readable>(zip.openReadStream.bind(zip) as never)(entry)
  const chunks: Buffer[] = []
  for await (const chunk of stream) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks).toString('utf8')
}
