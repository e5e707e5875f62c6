import { nanoid } from 'nanoid'
import { z } from 'zod'
import {
  bedCueSchema,
  markSchema,
  shelfItemSchema,
  soundCueSchema,
  stepSchema,
  takeSchema,
  type Lesson,
} from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import { layerSchema, type Layer } from '@/core/lesson/layers'
import { copyOfStep } from '@/core/lesson/copyStep'
import { copyOfBed, copyOfSounds, partOfLesson } from '@/core/lesson/partOfLesson'
import type { Edit } from '@/core/lesson/edits'
import { mediaInfoSchema } from '@/core/messages/media'
import type { WordClip } from '@/core/narration/words/wordRange'
import { timelineOf, type LessonState } from '../lesson/lessonStore'
import { anchorAtCaret, markAtCaret } from './anchors'

/** What was copied lies in the browser's storage, so that it can be pasted in another lesson or window. */

/** What is copied with it, since another lesson may not have it. */
const sources = { takes: z.array(takeSchema), shelf: z.array(shelfItemSchema), media: z.array(mediaInfoSchema) }
const wordsClipSchema = z.object({
  kind: z.literal('words'),
  words: z.object({
    pieces: z.array(z.object({ media: z.string(), from: z.number(), to: z.number(), pause: z.number() })),
    text: z.string(),
  }),
  ...sources,
})
const stepsClipSchema = z.object({
  kind: z.literal('steps'),
  steps: z.array(stepSchema).min(1),
  /** On which their pictures and sounds hang. */
  marks: z.array(markSchema),
  sounds: z.array(soundCueSchema).default([]),
  /** Music that begins and ends in them. */
  bedCues: z.array(bedCueSchema).default([]),
  ...sources,
})
const soundsClipSchema = z.object({
  kind: z.literal('sounds'),
  /** Each so long after the first. */
  sounds: z.array(z.object({ cue: soundCueSchema, after: z.number().min(0) })).min(1),
  ...sources,
})
const layersClipSchema = z.object({ kind: z.literal('layers'), layers: z.array(layerSchema).min(1), ...sources })
const clipSchema = z.discriminatedUnion('kind', [wordsClipSchema, stepsClipSchema, soundsClipSchema, layersClipSchema])
export type Clip = z.infer<typeof clipSchema>
type WordsClip = z.infer<typeof wordsClipSchema>
type StepsClip = z.infer<typeof stepsClipSchema>
type SoundsClip = z.infer<typeof soundsClipSchema>
type LayersClip = z.infer<typeof layersClipSchema>

const PLACE = 'yarn-step-copied'

/** What the browser had no room for; it is there for this page. */
let unstored: Clip | null = null

export function writeClipboard(clip: Clip): void {
  try {
    localStorage.setItem(PLACE, JSON.stringify(clip))
    unstored = null
  } catch (error) {
    console.error(error)
    unstored = clip
  }
}

export function readClipboard(): Clip | null {
  if (unstored) return unstored
  const text = localStorage.getItem(PLACE)
  return text ? (clipSchema.safeParse(JSON.parse(text)).data ?? null) : null
}

/** Steps with all that belongs to them; null where none is chosen. */
export function stepsClip({ history: { lesson }, media }: LessonState, ids: readonly string[]): StepsClip | null {
  // Longer music belongs to the lesson.
  const within = lesson.bedCues.filter(({ last }) => last !== null && ids.includes(last))
  const part = partOfLesson({ ...lesson, bedCues: within }, new Set(ids))
  if (part.steps.length === 0) return null
  const needed = mediaOf({ ...lesson, ...part, others: {} })
  return { kind: 'steps', ...part, ...known(lesson, media, needed) }
}

/** Words with the takes they are said in. */
export function wordsClip({ history: { lesson }, media }: LessonState, words: WordClip): WordsClip {
  const heard = new Set(words.pieces.map((piece) => piece.media))
  const takes = lesson.takes.filter((take) => heard.has(take.media) && !take.removed)
  return { kind: 'words', words, takes, ...known(lesson, media, heard) }
}

/** Sounds as they follow each other; null where none is chosen. */
export function soundsClip({ history: { lesson }, media }: LessonState, ids: readonly string[]): SoundsClip | null {
  const spans = timelineOf(lesson).sounds.filter(({ cue }) => ids.includes(cue.id))
  if (spans.length === 0) return null
  const first = Math.min(...spans.map(({ start }) => start))
  const needed = new Set(spans.map(({ cue }) => cue.media))
  const sounds = spans.map(({ cue, start }) => ({ cue, after: start - first }))
  return { kind: 'sounds', sounds, takes: [], ...known(lesson, media, needed) }
}

/** The edits that hang copied sounds on the caret, as far apart as they were; none without a caret. */
export function pasteSounds(state: LessonState, { sounds, shelf }: SoundsClip): Edit[] {
  const here = anchorAtCaret(state)
  if (!here) return []
  const hung = sounds.map(({ cue, after }) => ({
    ...cue,
    id: nanoid(10),
    anchor: { ...here.anchor, offset: here.anchor.offset + after },
  }))
  return [
    { name: 'placeMarks', marks: here.marks },
    { name: 'putOnShelf', items: shelf },
    { name: 'addSounds', sounds: hung },
  ]
}

/** What lies over a picture, as it is. */
export const layersClip = (layers: readonly Layer[]): LayersClip => ({
  kind: 'layers',
  layers: [...layers],
  ...{ takes: [], shelf: [], media: [] },
})

/** The edits that lay what was copied over the picture of a step: from the word at the caret on, or as long as the picture. */
export function pasteLayers(
  state: LessonState,
  { layers }: LayersClip,
  step: string,
): Extract<Edit, { name: 'addLayers' | 'placeMarks' }>[] {
  const { caret } = state
  const mark = caret?.step === step && caret.word > 0 ? markAtCaret(state) : null
  const copies = layers.map((layer) => ({ ...layer, id: nanoid(10), from: mark?.id ?? null, to: null }))
  return [
    ...(mark ? [{ name: 'placeMarks' as const, marks: [mark] }] : []),
    { name: 'addLayers', step, layers: copies },
  ]
}

function known(lesson: Lesson, media: LessonState['media'], needed: ReadonlySet<string>) {
  return {
    shelf: lesson.shelf.filter((item) => needed.has(item.media)),
    media: [...needed].flatMap((hash) => media.get(hash) ?? []),
  }
}

/** The edits that put copied steps, and what hangs on them, after the step with the caret. */
export function pasteSteps(
  { history: { lesson }, caret }: LessonState,
  { steps, takes, marks, shelf, sounds, bedCues }: StepsClip,
): [Extract<Edit, { name: 'pasteSteps' }>, ...Edit[]] {
  const named = { step: newNames(steps), mark: newNames(marks), sound: newNames(sounds) }
  const at = lesson.steps.findIndex(({ id }) => id === caret?.step)
  const edit = {
    name: 'pasteSteps' as const,
    before: lesson.steps[at + 1]?.id ?? null,
    steps: steps.map((step) => copyOfStep(step, named.step(step.id), () => nanoid(10), named.mark)),
    marks: marks.map((mark) => ({ ...mark, id: named.mark(mark.id), step: named.step(mark.step) })),
    takes: takes.map((take) => ({ ...take, id: nanoid(10), step: named.step(take.step) })),
    shelf,
  }
  const music = bedCues.map((cue): Edit => ({ name: 'addBed', cue: copyOfBed(cue, nanoid(10), named) }))
  return [edit, { name: 'addSounds', sounds: copyOfSounds(sounds, named) }, ...music]
}

/** A new name for each; what is not among them keeps its own. */
function newNames(list: readonly { id: string }[]): (id: string) => string {
  const names = new Map(list.map(({ id }) => [id, nanoid(10)]))
  return (id) => names.get(id) ?? id
}
