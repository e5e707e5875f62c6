import { z } from 'zod'
import { lessonBalanceSchema } from '@/core/course/lessonBalance'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import type { JobInputOf, JobKind } from './jobInput'
import { mediaInfoSchema } from './media'

/** Work that takes a while (asked for as jobInput.ts says): how far it is, and what came of it. */

const hash = z.string().regex(/^[0-9a-f]{64}$/)

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

export const jobResultSchemas = {
  compose: z.object({ info: mediaInfoSchema }),
  effect: z.object({ info: mediaInfoSchema }),
  balance: lessonBalanceSchema,
  scenes: z.object({ scenes: z.array(z.number()) }),
  soundTrack: z.object({ info: mediaInfoSchema }),
  asInFile: z.object({ info: mediaInfoSchema }),
  match: z.object({ pages: z.array(pageMatchSchema) }),
  roles: z.object({ voice: z.array(hash), music: z.array(hash), unsure: z.array(hash) }),
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
  /** One of these: the file, or the lesson or course that a saved copy became. */
  import: z.object({
    media: mediaInfoSchema.nullable(),
    lesson: z.string().nullable(),
    course: z.string().nullable().default(null),
  }),
  /** Written by our own worker in this very form. */
  export: z.object({
    balance: z.custom<BalanceSheet>().nullable(),
    bytes: z.number(),
    /** What is in a video beside picture and sound; nothing where it was made before that was kept. */
    hasCaptions: z.boolean().optional(),
    chapters: z.array(z.object({ title: z.string(), start: z.number() })).optional(),
  }),
}

export type TimedWord = z.infer<typeof timedWordSchema>
export type JobResult<K extends JobKind> = z.infer<(typeof jobResultSchemas)[K]>

export const JOB_STATES = ['waiting', 'working', 'done', 'failed', 'cancelled'] as const
export type JobState = (typeof JOB_STATES)[number]
export const isUnderWay = ({ state }: { state: JobState }): boolean => state === 'waiting' || state === 'working'

/** Why a job failed: its input can't be used, there was no room, it was begun too often, or a fault of ours. */
export const JOB_ERRORS = ['refused', 'disk-full', 'given-up', 'fault'] as const
export type JobError = (typeof JOB_ERRORS)[number]

export interface JobStatus<K extends JobKind = JobKind> {
  id: string
  kind: K
  state: JobState
  /** 0..1 */
  progress: number
  /** A sentence for whoever asked. */
  error: string | null
  errorCode: JobError | null
  result: JobResult<K> | null
}

/** A finished file of a lesson, or one in the making, as the page shows it. */
export interface ExportStatus extends JobStatus<'export'> {
  input: JobInputOf<'export'>
  createdAt: string
  /** Whether the lesson was changed since. */
  isOutdated: boolean
}
