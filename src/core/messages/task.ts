import { z } from 'zod'
import { wishSchema } from '@/core/compose/wish'
import { cleanUpSchema } from '@/core/narration/cleanUp/settings'
import { pronunciationSchema, readingSettingsSchema } from '@/core/narration/speechVoice'
import { lessonBalanceSchema } from '@/core/course/courseBalance'
import { LIMITS } from '@/core/lesson/limits'
import { mediaInfoSchema } from './media'

/** Work that takes a while and gives a value. The same kind and input always give the same result. */

const hash = z.string().regex(/^[0-9a-f]{64}$/)
const seconds = z.number().min(0).max(86400)

/** Cleans a take; the result is media as long as the take. */
const cleanInput = z.object({ kind: z.literal('clean'), media: hash, cleanUp: cleanUpSchema, room: hash.nullable() })
/** Has a script read by a synthesised voice; the result is a take. */
const readInput = z.object({
  kind: z.literal('read'),
  script: z.string().min(1).max(LIMITS.scriptCharacters),
  reading: readingSettingsSchema,
  pronunciations: z.array(pronunciationSchema).max(1000),
})
/** Finds the words of a script in a part of a take. */
const alignInput = z.object({
  kind: z.literal('align'),
  media: hash,
  from: seconds,
  to: seconds,
  script: z.string().min(1).max(LIMITS.lessonCharacters),
  language: z.string().min(2).max(20),
})
/** Finds the moments at which a recording's picture changes all at once. */
const scenesInput = z.object({ kind: z.literal('scenes'), media: hash, from: seconds, to: seconds })
/** Finds which page of a new deck is which of an old one. */
const matchInput = z.object({ kind: z.literal('match'), old: hash, now: hash })
/** Has a piece written and played. */
const composeInput = z.object({ kind: z.literal('compose'), wish: wishSchema })
/** Makes an effect of our own. */
const effectInput = z.object({ kind: z.literal('effect'), effect: z.string() })
/** Computes how a lesson sounds as it is planned. */
const balanceInput = z.object({ kind: z.literal('balance'), lesson: z.string().max(40), revision: z.int().min(1) })
export const taskInputSchema = z.discriminatedUnion('kind', [
  cleanInput,
  readInput,
  alignInput,
  scenesInput,
  matchInput,
  composeInput,
  effectInput,
  balanceInput,
])

/** Raised when the same input comes to give another result, kind by kind. */
export const TASK_EDITIONS: Record<z.infer<typeof taskInputSchema>['kind'], number> = {
  clean: 2,
  read: 1,
  align: 2,
  scenes: 1,
  match: 1,
  compose: 1,
  effect: 1,
  balance: 1,
}

/** A word of a script in a take's own time; `from` and `to` are its characters. */
export const timedWordSchema = z.object({
  text: z.string(),
  from: z.number(),
  to: z.number(),
  sentence: z.number(),
  start: z.number(),
  end: z.number(),
  confidence: z.number(),
})

export const pageMatchSchema = z.object({
  /** Pages from 1; null where the other deck has no such page. */
  old: z.int().nullable(),
  now: z.int().nullable(),
  change: z.enum(['same', 'changed', 'new', 'gone']),
})
export type PageMatch = z.infer<typeof pageMatchSchema>

export const taskResultSchemas = {
  compose: z.object({ info: mediaInfoSchema }),
  effect: z.object({ info: mediaInfoSchema }),
  balance: lessonBalanceSchema,
  scenes: z.object({ scenes: z.array(z.number()) }),
  match: z.object({ pages: z.array(pageMatchSchema) }),
  clean: z.object({ info: mediaInfoSchema }),
  read: z.object({ info: mediaInfoSchema, words: z.array(timedWordSchema) }),
  align: z.object({
    words: z.array(timedWordSchema),
    /** Sentences by number that are not said. */
    skipped: z.array(z.number()),
    extra: z.array(
      z.object({
        kind: z.enum(['retake', 'ad-lib']),
        start: z.number(),
        end: z.number(),
        sentence: z.number().optional(),
      }),
    ),
  }),
}

export type TaskInput = z.infer<typeof taskInputSchema>
export type TaskKind = TaskInput['kind']
export type TimedWord = z.infer<typeof timedWordSchema>
export type TaskResult<K extends TaskKind> = z.infer<(typeof taskResultSchemas)[K]>

export interface TaskStatus {
  id: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  progress: number
  error: string | null
  result: unknown
}
