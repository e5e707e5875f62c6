import { mediaOf } from '@/core/lesson/document'
import { readLesson } from '@/core/lesson/upgrade'
import { isReadable } from '@/db/lessons'

/** The files of a stored document; of one that this program can't read, all that looks like one. */
export const mediaNeededBy = (document: unknown): Set<string> =>
  isReadable(document) ? mediaOf(readLesson(document)) : new Set(JSON.stringify(document).match(/\b[0-9a-f]{64}\b/g))
