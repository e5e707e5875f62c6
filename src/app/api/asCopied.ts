import { mediaOf } from '@/core/lesson/usedMedia'
import { tell } from '@/core/lesson/telling'
import { readDocument } from '@/core/lesson/upgrade'

/** A stored document as it goes into a copy, and the files it needs; one that this program can't read goes in as it is. */
export function asCopied(stored: unknown): { document: unknown; media: Set<string> } {
  try {
    const document = readDocument(stored)
    return { document, media: mediaOf(tell(document)) }
  } catch {
    // Everything in it that looks like a file's hash.
    return { document: stored, media: new Set(JSON.stringify(stored).match(/\b[0-9a-f]{64}\b/g)) }
  }
}
