import { z } from 'zod'
import { cleanUpSchema, NO_CLEAN_UP } from '@/core/narration/cleanUp/settings'
import { DEFAULT_READING, readingSettingsSchema } from '@/core/narration/speechVoice'

/**
 * The lesson document: everything an author decides, and nothing that can be computed from it.
 * No lesson time is stored here; places are anchored to steps and takes (see layout.ts).
 * There are no optional keys (`null` says 'none'), so that a document has one spelling only.
 */

export const FORMAT_VERSION = 2

const seconds = z
  .number()
  .min(0)
  .max(24 * 3600)
const id = z.string().min(1).max(40)
/** SHA-256 of the file as it was brought in, in hex. */
const mediaHash = z.string().regex(/^[0-9a-f]{64}$/)

/** A still: an image, or one page (from 1) of a deck. */
const stillSchema = z.object({ kind: z.literal('still'), media: mediaHash, page: z.int().min(1) })
/** A recording from `from` to `to` of its file; `gain` of its own sound in dB, or null where it is silent. */
const recordingSchema = z.object({
  kind: z.literal('recording'),
  media: mediaHash,
  from: seconds,
  to: seconds,
  gain: z.number().min(-60).max(24).nullable(),
})
/** Text on plain ground: the first line is the title. */
const cardSchema = z.object({ kind: z.literal('card'), lines: z.array(z.string().max(200)).min(1).max(6) })
export const pictureSchema = z.discriminatedUnion('kind', [stillSchema, recordingSchema, cardSchema])

/** Follow the voice (lead-in + passages + tail, at least so long), or a fixed length. */
export const lengthRuleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('voice'), atLeast: seconds }),
  z.object({ kind: z.literal('fixed'), length: seconds }),
])

/** A part of a take, `from` to `to` in the take's own time, after a pause of so many seconds. */
export const passageSchema = z.object({ id, media: mediaHash, from: seconds, to: seconds, pause: seconds })

/** One go at a step's words: a part of a recorded, brought-in or synthesised file. The file itself is never altered. */
export const takeSchema = z.object({
  id,
  media: mediaHash,
  step: id,
  from: seconds,
  to: seconds,
  name: z.string().max(200),
  kind: z.enum(['recorded', 'brought-in', 'read']),
  /** The step's script when the take was made. */
  script: z.string().max(20000),
  /** The room alone, recorded in the same sitting. */
  room: mediaHash.nullable(),
  /** Null: as the lesson's voice. Takes of one file have one clean-up. */
  cleanUp: cleanUpSchema.nullable(),
  /** Removed takes can be brought back. */
  removed: z.boolean(),
  /** Words whose times were set by hand: by their first character in `script`, in the file's time. */
  retimed: z.array(z.object({ character: z.int().min(0), start: seconds, end: seconds })).max(20000),
})

export const stepSchema = z.object({
  id,
  title: z.string().max(200),
  picture: pictureSchema,
  script: z.string().max(20000),
  length: lengthRuleSchema,
  leadIn: seconds,
  tail: seconds,
  passages: z.array(passageSchema),
})

/** A piece of music that starts with a step and plays until the next cue or the lesson's end. */
export const bedCueSchema = z.object({ id, media: mediaHash, step: id })

export const targetsSchema = z.object({
  /** How far the bed stays under the voice while it speaks, in LU. */
  clearance: z.number().min(3).max(40),
  /** How far the bed stays under the voice's level where nobody speaks, in LU. */
  swell: z.number().min(-6).max(40),
  /** Silence of the voice from which the bed swells, in seconds. */
  pauseFrom: z.number().min(1).max(30),
  /** Loudness of the whole lesson, in LUFS. */
  loudness: z.number().min(-31).max(-9),
  /** Highest true peak of the whole lesson, in dBTP. */
  truePeak: z.number().min(-9).max(0),
})

export const shelfKindSchema = z.enum(['still', 'deck', 'recording', 'sound'])
/** What an author knows about a file on the shelf. */
export const shelfItemSchema = z.object({
  media: mediaHash,
  kind: shelfKindSchema,
  title: z.string().max(200),
  source: z.string().max(500),
  licence: z.string().max(200),
  credit: z.string().max(500),
})

export const lessonSchema = z.object({
  format: z.literal(FORMAT_VERSION),
  title: z.string().max(200),
  steps: z.array(stepSchema).max(2000),
  bedCues: z.array(bedCueSchema).max(500),
  shelf: z.array(shelfItemSchema).max(5000),
  targets: targetsSchema,
  takes: z.array(takeSchema).max(20000),
  /** For all takes that have none of their own. */
  cleanUp: cleanUpSchema,
  /** The synthesised voice that reads what nobody has recorded yet. */
  reading: readingSettingsSchema,
  /** Of the script; BCP 47. */
  language: z.string().min(2).max(20),
})

export type Picture = z.infer<typeof pictureSchema>
export type LengthRule = z.infer<typeof lengthRuleSchema>
export type Passage = z.infer<typeof passageSchema>
export type Take = z.infer<typeof takeSchema>
export type Step = z.infer<typeof stepSchema>
export type BedCue = z.infer<typeof bedCueSchema>
export type MixTargets = z.infer<typeof targetsSchema>
export type ShelfItem = z.infer<typeof shelfItemSchema>
export type ShelfKind = z.infer<typeof shelfKindSchema>
export type Lesson = z.infer<typeof lessonSchema>
export type MediaHash = string

export const DEFAULT_TARGETS: MixTargets = { clearance: 16, swell: 6, pauseFrom: 3, loudness: -16, truePeak: -1 }
/** A picture without words stays this long unless told otherwise. */
export const DEFAULT_STAY = 4

export function emptyLesson(title: string): Lesson {
  return {
    format: FORMAT_VERSION,
    title,
    steps: [],
    bedCues: [],
    shelf: [],
    targets: { ...DEFAULT_TARGETS },
    takes: [],
    cleanUp: NO_CLEAN_UP,
    reading: DEFAULT_READING,
    language: 'en-gb',
  }
}

/** A step with this picture and nothing said yet. */
export function newStep(id: string, title: string, picture: Picture): Step {
  return {
    id,
    title,
    picture,
    script: '',
    length: { kind: 'voice', atLeast: picture.kind === 'recording' ? picture.to - picture.from : DEFAULT_STAY },
    leadIn: 0,
    tail: 0,
    passages: [],
  }
}

/** All files a document needs, each once. */
export function mediaOf(lesson: Lesson): Set<MediaHash> {
  const used = new Set<MediaHash>()
  for (const step of lesson.steps) {
    if (step.picture.kind !== 'card') used.add(step.picture.media)
    for (const passage of step.passages) used.add(passage.media)
  }
  for (const cue of lesson.bedCues) used.add(cue.media)
  for (const item of lesson.shelf) used.add(item.media)
  for (const take of lesson.takes) {
    used.add(take.media)
    if (take.room) used.add(take.room)
  }
  return used
}
