import { z } from 'zod'
import { wishSchema } from '@/core/compose/wish'
import { OUTPUT_NAMES } from '@/core/delivery/outputs'
import { LIMITS } from '@/core/lesson/limits'
import { cleanUpSchema } from '@/core/narration/cleanUp/settings'
import { pronunciationSchema, readingSettingsSchema } from '@/core/narration/speechVoice'

/** Work that takes a while: what is asked for. Only the server reads it; what comes of it stands in job.ts. */

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

export type JobInput = z.infer<typeof jobInputSchema>
export type JobKind = JobInput['kind']
export type JobInputOf<K extends JobKind> = Extract<JobInput, { kind: K }>
export type Computation = z.infer<typeof computationSchema>
export type ComputationKind = Computation['kind']
export type JobRequest = z.infer<typeof jobRequestSchema>
