import { z } from 'zod'
import { cleanUpSchema } from '@/core/narration/cleanUp/settings'
import { readingSettingsSchema } from '@/core/narration/speechVoice'
import { frameSchema, framingSchema } from './framing'
import { edgeSchema, layerSchema, lookSchema } from './layers'
import { LIMITS } from './limits'

/**
 * The lesson document: everything an author decides, and nothing that can be computed from it.
 * No lesson time is stored here; what has a place in the lesson hangs on steps and marks (see layout.ts).
 * What is said is kept once per language, beside the pictures; a document is worked on as the `Lesson` it is in one of
 * them (see telling.ts).
 * There are no optional keys (`null` says 'none'), so that a document has one spelling only.
 */

export const FORMAT_VERSION = 6

const seconds = z.number().min(0).max(LIMITS.length)
const name = z.string().max(LIMITS.nameCharacters)
const script = z.string().max(LIMITS.scriptCharacters)
const id = z.string().min(1).max(40)
/** SHA-256 of the file as it was brought in, in hex. */
const mediaHash = z.string().regex(/^[0-9a-f]{64}$/)

/** How a picture of another shape stands in the frame; null: as the lesson says. */
const framing = framingSchema.nullable()

/** A still: an image, or one page (from 1) of a deck. */
const stillSchema = z.object({ kind: z.literal('still'), media: mediaHash, page: z.int().min(1), framing })

/** A place in a file, in its own time. */
export const placeSchema = z.object({ media: mediaHash, at: seconds })

/**
 * An identity among the words of a step, on which all hangs that is to come when something is said. It is mapped through
 * every change of script and voice (see followWords.ts).
 */
export const markSchema = z.object({
  id,
  /** The step that says it. */
  step: id,
  /** The word of the script, by its first character, and which side of it; null where nothing is written there. */
  word: z.object({ character: z.int().min(0), side: z.enum(['before', 'after']) }).nullable(),
  /** Where in a take it is said; null where nobody has said it yet. */
  place: placeSchema.nullable(),
  /** Which of the two is only guessed from the other, until the words of the take are found. */
  guessed: z.enum(['word', 'place']).nullable(),
})

/** A moment of a recording that is seen when a mark is said. */
export const pinSchema = z.object({ id, at: seconds, mark: id })

/**
 * A recording from `from` to `to` of its file, without what is cut out of it; `gain` of its own sound in dB, or null
 * where it is silent. `speed` is a factor, or null: so fast that the step's words last as long.
 */
const recordingSchema = z.object({
  kind: z.literal('recording'),
  media: mediaHash,
  from: seconds,
  to: seconds,
  gain: z.number().min(-60).max(24).nullable(),
  speed: z.number().min(0.1).max(16).nullable(),
  /** In the file's time, in order. */
  cuts: z.array(z.object({ from: seconds, to: seconds })).max(500),
  pins: z.array(pinSchema).max(200),
  framing,
})
/** Text on plain ground: the first line is the title. */
const cardSchema = z.object({
  kind: z.literal('card'),
  lines: z.array(z.string().max(LIMITS.lineCharacters)).min(1).max(6),
})
export const pictureSchema = z.discriminatedUnion('kind', [stillSchema, recordingSchema, cardSchema])

/** How long a step stays. */
export const lengthRuleSchema = z.discriminatedUnion('kind', [
  /** Follows the voice (lead-in + passages + tail), at least so long. */
  z.object({ kind: z.literal('voice'), atLeast: seconds }),
  /** Follows the voice as the lesson's own rule says. */
  z.object({ kind: z.literal('lesson') }),
  /** Follows the voice, and gives so many seconds for each word that is on the picture. */
  z.object({ kind: z.literal('reading'), perWord: seconds, words: z.int().min(0).max(5000) }),
  /** Stays until the next word is said, so that the next step begins with its voice. */
  z.object({ kind: z.literal('until-next'), atLeast: seconds }),
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
  name,
  kind: z.enum(['recorded', 'brought-in', 'read']),
  /** The step's script when the take was made. */
  script,
  /** The room alone, recorded in the same sitting. */
  room: mediaHash.nullable(),
  /** Null: as the lesson's voice. Takes of one file have one clean-up. */
  cleanUp: cleanUpSchema.nullable(),
  /** Removed takes can be brought back. */
  removed: z.boolean(),
  /** Words whose times were set by hand: by their first character in `script`, in the file's time. */
  retimed: z.array(z.object({ character: z.int().min(0), start: seconds, end: seconds })).max(100_000),
})

/** A step as it is seen, in whatever language it is told. */
export const shownStepSchema = z.object({
  id,
  title: name,
  picture: pictureSchema,
  length: lengthRuleSchema,
  leadIn: seconds,
  tail: seconds,
  /** Further pictures of the step; each is seen from a mark on. */
  more: z.array(z.object({ id, picture: pictureSchema, mark: id })).max(200),
  /** What lies over its pictures, from the ground up. */
  layers: z.array(layerSchema).max(200),
  /** How its last picture gives way to the next step; null: as the lesson says. */
  edge: edgeSchema.nullable(),
  /** Whether it begins a chapter, under which title; null: as the steps' own titles say. */
  chapter: z.object({ begins: z.boolean(), title: name }).nullable(),
})

/** What is said in a step. */
export const saidSchema = z.object({ script, passages: z.array(passageSchema) })

/** A step with what is said in it in one language. */
export const stepSchema = shownStepSchema.extend(saidSchema.shape)

/** A piece of music that begins with a step, or when something is said, and plays until its end, the next cue or the lesson's end. */
export const bedCueSchema = z.object({
  id,
  media: mediaHash,
  begins: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('step'), step: id }),
    z.object({ kind: z.literal('mark'), mark: id }),
  ]),
  /** The last step it plays under; null: as long as it can. */
  last: id.nullable(),
  /** The part of the file that is used; null: to its end. */
  from: seconds,
  to: seconds.nullable(),
  /** Of its own, where it is not the lesson's. */
  clearance: z.number().min(3).max(40).nullable(),
  /** How long it is blended with the piece before it. */
  blend: z.number().min(0).max(20),
  /** How long it fades; null: in at once, and out after the last word. Blending goes before. */
  fadeIn: seconds.nullable(),
  fadeOut: seconds.nullable(),
  fadeShape: z.enum(['straight', 'smooth']),
})

/** So many seconds after it begins. */
const offset = z.number().min(-3600).max(3600)
const onStep = z.object({ kind: z.literal('step'), step: id, offset })
const onMark = z.object({ kind: z.literal('mark'), mark: id, offset })
/** Where a sound hangs: on a step, on something that is said, or on another sound. */
export const anchorSchema = z.discriminatedUnion('kind', [
  onStep,
  onMark,
  z.object({ kind: z.literal('sound'), sound: id, offset }),
])

/** A sound effect, or a second voice, `from` to `to` of its file. */
export const soundCueSchema = z.object({
  id,
  media: mediaHash,
  from: seconds,
  to: seconds,
  track: z.enum(['effect', 'voice']),
  anchor: anchorSchema,
  gain: z.number().min(-60).max(24),
  fadeIn: seconds,
  fadeOut: seconds,
  /** That it sounds over words is meant, and no finding. */
  meant: z.boolean(),
  /** What captions say of it; empty: nothing. */
  caption: z.string().max(LIMITS.captionCharacters),
})

/** A point of the line that is added to the ride by hand: so many dB at its moment. Lines join the points. */
export const nudgeSchema = z.object({
  id,
  anchor: z.discriminatedUnion('kind', [
    onStep.extend({ offset: z.number().min(-3600).max(LIMITS.length) }),
    onMark.extend({ offset: z.number().min(-3600).max(LIMITS.length) }),
  ]),
  gain: z.number().min(-60).max(24),
  /** How the line goes on to the next point. */
  shape: z.enum(['straight', 'smooth']),
})

export const TRACKS = ['voice', 'recordings', 'sounds', 'bed'] as const
export type TrackName = (typeof TRACKS)[number]
const trackSchema = z.object({ gain: z.number().min(-60).max(24), muted: z.boolean() })

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
  /** How fast the bed may move, in dB a second. */
  slope: z.number().min(3).max(24),
  /** How far the recordings' own sound and the effects stay under the voice while it speaks, in LU; 0: as they are. */
  recordingsUnder: z.number().min(0).max(40),
  effectsUnder: z.number().min(0).max(40),
})

/** A dip in the bed's spectrum while the voice speaks; `depth` in dB, or null: as deep as needed. */
export const pocketSchema = z.object({
  on: z.boolean(),
  depth: z.number().min(1).max(15).nullable(),
  /** How much nearer the music is than its clearance, in LU, for what the pocket gives. */
  nearer: z.number().min(0).max(6).default(0),
})

export const shelfKindSchema = z.enum(['still', 'deck', 'recording', 'sound'])
/** What an author knows about a file on the shelf. */
export const shelfItemSchema = z.object({
  media: mediaHash,
  kind: shelfKindSchema,
  title: name,
  source: name,
  licence: name,
  credit: name,
})

const language = z.string().min(2).max(20)

/**
 * A caption as an author has it: where a step says exactly these words in a row, they are one caption that reads so, with its
 * lines as they are; empty: there is none. It hangs on the words themselves, and goes wherever they go.
 */
export const captionCorrectionSchema = z.object({
  words: z.string().min(1).max(LIMITS.captionCharacters),
  text: z.string().max(LIMITS.captionCharacters),
})

/** What is said in one language over the lesson's pictures. */
const narration = {
  takes: z.array(takeSchema).max(LIMITS.items.takes),
  marks: z.array(markSchema).max(LIMITS.items.marks),
  /** For all takes that have none of their own. */
  cleanUp: cleanUpSchema,
  /** The synthesised voice that reads what nobody has recorded yet. */
  reading: readingSettingsSchema,
  captionCorrections: z.array(captionCorrectionSchema).max(LIMITS.items.captionCorrections),
}
export const narrationSchema = z.object({
  /** By step. */
  said: z.record(id, saidSchema),
  ...narration,
})

/** What is the same in every language. */
const shared = {
  bedCues: z.array(bedCueSchema).max(LIMITS.items.bedCues),
  shelf: z.array(shelfItemSchema).max(LIMITS.items.shelf),
  targets: targetsSchema,
  sounds: z.array(soundCueSchema).max(LIMITS.items.sounds),
  /** In the order of lesson time. */
  nudges: z.array(nudgeSchema).max(LIMITS.items.nudges),
  pocket: pocketSchema,
  /** The music's strokes are taken down while somebody speaks. */
  evenStrokes: z.boolean().default(false),
  tracks: z.object({ voice: trackSchema, recordings: trackSchema, sounds: trackSchema, bed: trackSchema }),
  /** For steps whose rule is the lesson's. */
  lengths: z.object({ leadIn: seconds, tail: seconds, atLeast: seconds }),
  /** The shape of its video, and how pictures of another shape stand in it. */
  frame: frameSchema,
  framing: framingSchema,
  /** How words and pointers over its pictures look. */
  look: lookSchema,
  /** For steps that have none of their own. */
  edge: edgeSchema,
  /** How long the first picture takes to come out of plain ground, and the last one to go into it; 0: none. */
  opening: z.number().min(0).max(10),
  closing: z.number().min(0).max(10),
}

/** A lesson as it is stored. */
export const documentSchema = z.object({
  format: z.literal(FORMAT_VERSION),
  title: name,
  steps: z.array(shownStepSchema).max(LIMITS.items.steps),
  /** By language: BCP 47. */
  narrations: z.record(language, narrationSchema),
  /** In which it is told unless another is asked for. */
  language,
  ...shared,
})

/** A lesson as it is told in one language, and worked on. */
export const lessonSchema = z.object({
  title: name,
  steps: z.array(stepSchema).max(LIMITS.items.steps),
  ...narration,
  language,
  /** In which it is told unless another is asked for. */
  mainLanguage: language,
  /** What is said in other languages. */
  others: z.record(language, narrationSchema),
  ...shared,
})

export type Picture = z.infer<typeof pictureSchema>
export type LengthRule = z.infer<typeof lengthRuleSchema>
export type Passage = z.infer<typeof passageSchema>
export type Take = z.infer<typeof takeSchema>
export type Said = z.infer<typeof saidSchema>
export type Place = z.infer<typeof placeSchema>
export type Mark = z.infer<typeof markSchema>
export type Narration = z.infer<typeof narrationSchema>
export type ShownStep = z.infer<typeof shownStepSchema>
export type LessonDocument = z.infer<typeof documentSchema>
export type CaptionCorrection = z.infer<typeof captionCorrectionSchema>
export type Anchor = z.infer<typeof anchorSchema>
export type SoundCue = z.infer<typeof soundCueSchema>
export type Nudge = z.infer<typeof nudgeSchema>
export type Pocket = z.infer<typeof pocketSchema>
export type LessonLengths = Lesson['lengths']
export type StillPicture = Extract<Picture, { kind: 'still' }>
export type RecordingPicture = Extract<Picture, { kind: 'recording' }>
export type Step = z.infer<typeof stepSchema>
export type BedCue = z.infer<typeof bedCueSchema>
export type MixTargets = z.infer<typeof targetsSchema>
export type ShelfItem = z.infer<typeof shelfItemSchema>
export type ShelfKind = z.infer<typeof shelfKindSchema>
export type Lesson = z.infer<typeof lessonSchema>
export type MediaHash = string
