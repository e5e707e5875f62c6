import { z } from 'zod'
import { wishSchema } from '@/core/compose/wish'
import { cleanUpSchema } from '@/core/narration/cleanUp/settings'
import { pronunciationSchema, readingSettingsSchema } from '@/core/narration/speechVoice'
import { lessonBalanceSchema } from '@/core/course/lessonBalance'
import { LIMITS } from '@/core/lesson/limits'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { OUTPUT_NAMES } from '@/core/delivery/outputs'
import { mediaInfoSchema } from './media'

/** Work that takes a while: what is asked for, how far it is, and what came of it. */

const hash = z.string().regex(/^[0-9a-f]{64}$/)
const seconds = z.number().min(0).max(86400)

/** Cleans a take; the result is media as long as the take. */
const cleanInput = z.object({ kind: z.literal('clean'), media: hash, cleanUp: cleanUpSchema, room: hash.nullable() })
/** Has a script read by a synthesised voice; the result is a take. */
const readInput = z.object({
  kind: z.literal('read'),
  script: z.string().min(1).max(LIMITS.scriptCharacters),
  /** What the pace is found by; null: the script alone. */
  around: z.string().max(LIMITS.lessonCharacters).nullable().default(null),
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
/** Makes the same recording with another of its sound tracks, from 0; the result is media of its own. */
const soundTrackInput = z.object({ kind: z.literal('soundTrack'), media: hash, track: z.int().min(0).max(100) })
/** The same sound with its channels as they are in its file; the result is media of its own. */
const asInFileInput = z.object({ kind: z.literal('asInFile'), media: hash })
/** Finds which page of a new deck is which of an old one. */
const matchInput = z.object({ kind: z.literal('match'), old: hash, now: hash })
/** Tells which of some sounds are narration and which are music, by measurement. */
const rolesInput = z.object({ kind: z.literal('roles'), sounds: z.array(hash).min(1).max(500) })
/** Has a piece written and played. */
const composeInput = z.object({ kind: z.literal('compose'), wish: wishSchema })
/** Makes an effect of our own. */
const effectInput = z.object({ kind: z.literal('effect'), effect: z.string() })
/** Computes how a lesson sounds as it is planned. */
const balanceInput = z.object({ kind: z.literal('balance'), lesson: z.string().max(40), revision: z.int().min(1) })
/** The same input always gives the same result: what was computed once is there. */
const computations = [
  cleanInput,
  readInput,
  alignInput,
  scenesInput,
  soundTrackInput,
  asInFileInput,
  matchInput,
  rolesInput,
  composeInput,
  effectInput,
  balanceInput,
] as const

/** Takes an upload or a recording in; asked for when all of it is there, under its id. */
const importInput = z.object({
  kind: z.literal('import'),
  name: z.string(),
  /** A saved copy of a lesson becomes a lesson of `course`, or of the first; one of a course becomes another course. */
  purpose: z.enum(['media', 'archive', 'recording']),
  course: z.string().nullable(),
})

/** Makes a finished file of one revision of a lesson, told in one of its languages; null: its own. */
const exportInput = z.object({
  kind: z.literal('export'),
  lesson: z.string().max(40),
  revision: z.int().min(1),
  file: z.enum(OUTPUT_NAMES),
  language: z.string().max(20).nullable().default(null),
})

export const computationSchema = z.discriminatedUnion('kind', computations)
export const jobInputSchema = z.discriminatedUnion('kind', [...computations, importInput, exportInput])
/** What a page may ask for; a file is made of what is saved now. */
export const jobRequestSchema = z.discriminatedUnion('kind', [...computations, exportInput.omit({ revision: true })])

/** Raised when the same input comes to give another result, kind by kind. */
export const JOB_EDITIONS: Record<z.infer<typeof computationSchema>['kind'], number> = {
  clean: 2,
  read: 1,
  align: 3,
  scenes: 1,
  soundTrack: 1,
  asInFile: 1,
  match: 1,
  roles: 2,
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

export type JobInput = z.infer<typeof jobInputSchema>
export type JobKind = JobInput['kind']
export type JobInputOf<K extends JobKind> = Extract<JobInput, { kind: K }>
export type Computation = z.infer<typeof computationSchema>
export type ComputationKind = Computation['kind']
export type JobRequest = z.infer<typeof jobRequestSchema>
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
