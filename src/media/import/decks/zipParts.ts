import { bytesOf, entriesOf, openZip } from '../../zip'

/** Far more than the text of any deck. */
const MOST_TEXT = 64 * 1024 ** 2 // bytes
const MOST_PARTS = 20_000

/** The text parts of a zip by name; those that match `wanted` alone are unpacked. Throws where it is no sound zip. */
export async function readZipParts(path: string, wanted: RegExp): Promise<Map<string, string>> {
  const zip = await openZip(path)
  try {
    const entries = await entriesOf(zip, MOST_PARTS, (why) => new Error(`parts of this deck: ${why}`))
    const parts = new Map<string, string>()
    let left = MOST_TEXT
    for (const [name, entry] of entries) {
      if (!wanted.test(name)) continue
      left -= entry.uncompressedSize
      if (left < 0) throw new Error('the text of this deck is too large')
      parts.set(name, (await bytesOf(zip, entry)).toString('utf8'))
    }
    return parts
  } finally {
    zip.close()
  }
}
