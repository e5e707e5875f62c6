import { documentSchema, type Lesson, type LessonDocument } from './document'
import { upgradeFormat1 } from './upgradeFormat1'
import { upgradeFormat2 } from './upgradeFormat2'
import { upgradeFormat3 } from './upgradeFormat3'
import { upgradeFormat4 } from './upgradeFormat4'
import { upgradeFormat5 } from './upgradeFormat5'
import { documentOf, tell } from './telling'

/** What each format becomes in the next one. */
const UPGRADES: Readonly<Record<number, (json: object) => object>> = {
  1: upgradeFormat1,
  2: upgradeFormat2,
  3: upgradeFormat3,
  4: upgradeFormat4,
  5: upgradeFormat5,
}

/** Reads a lesson document of this format or an older one. Throws a ZodError where it is neither. */
export const readDocument = (json: unknown): LessonDocument => documentOf(tell(documentSchema.parse(upgraded(json))))

/** A document of an older format as one of this; anything else as it is, for the schema to refuse. */
export function upgraded(json: unknown): unknown {
  let now = json
  try {
    for (let upgrade = upgradeOf(now); upgrade; upgrade = upgradeOf(now)) now = upgrade(now as object)
  } catch {
    return json
  }
  return now
}

/** The lesson of a document, in the given language or the one it is told in. */
export const readLesson = (json: unknown, language?: string): Lesson => tell(readDocument(json), language)

function upgradeOf(json: unknown): ((json: object) => object) | undefined {
  if (typeof json !== 'object' || json === null || !('format' in json) || !('steps' in json)) return undefined
  return UPGRADES[json.format as number]
}
