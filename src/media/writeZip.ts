import { createReadStream, createWriteStream } from 'node:fs'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'

/** A file in a zip: text, or bytes that are opened when it is their turn and put in as they are. */
export interface ZipPart {
  name: string
  content: string | (() => Promise<Readable>)
}

/** A zip as it is read. What goes wrong with one of its files ends it with an error instead of leaving its reader waiting. */
export function zipOf(parts: Iterable<ZipPart>): Readable {
  const zip = new yazl.ZipFile()
  for (const { name, content } of parts) {
    if (typeof content === 'string') zip.addBuffer(Buffer.from(content), name)
    else
      zip.addReadStreamLazy(name, { compress: false }, (give) => {
        content().then(
          (bytes) => give(null, bytes),
          (error: Error) => give(error, null as never),
        )
      })
  }
  zip.end()
  const stream = zip.outputStream as Readable
  zip.on('error', (error) => stream.destroy(error as Error))
  return stream
}

export const writeZip = (parts: Iterable<ZipPart>, out: string): Promise<void> =>
  pipeline(zipOf(parts), createWriteStream(out))

/** A file of this machine in a zip. */
export const fileInZip = (name: string, path: string): ZipPart => ({
  name,
  content: () => Promise.resolve(createReadStream(path)),
})
