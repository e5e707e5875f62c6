import { nanoid } from 'nanoid'
import { z } from 'zod'
import {
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
import { marksOfStep } from '@/core/lesson/marks'
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
  /** On which their pictures hang. */
  marks: z.array(markSchema),
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

export const writeClipboard = (clip: Clip): void => localStorage.setItem(PLACE, JSON.stringify(clip))

export function readClipboard(): Clip | null {
  const text = localStorage.getItem(PLACE)
  return text ? (clipSchema.safeParse(JSON.parse(text)).data ?? null) : null
}

/** Steps with all that belongs to them; null where none is chosen. */
export function stepsClip({ history: { lesson }, media }: LessonState, ids: readonly string[]): StepsClip | null {
  const steps = lesson.steps.filter(({ id }) => ids.includes(id))
  if (steps.length === 0) return null
  const takes = lesson.takes.filter(({ step }) => ids.includes(step))
  const hung = new Set(steps.flatMap(marksOfStep))
  const marks = lesson.marks.filter(({ id }) => hung.has(id))
  const needed = mediaOf({ ...lesson, steps, takes, shelf: [], bedCues: [], sounds: [], others: {} })
  return { kind: 'steps', steps, marks, takes, ...known(lesson, media, needed) }
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

/** The edit that puts copied steps after the step with the caret. */
export function pasteEdit(
  { history: { lesson }, caret }: LessonState,
  { steps, takes, marks, shelf }: StepsClip,
): Extract<Edit, { name: 'pasteSteps' }> {
  const ids = new Map(steps.map(({ id }) => [id, nanoid(10)]))
  const marksFor = new Map(marks.map(({ id }) => [id, nanoid(10)]))
  const at = lesson.steps.findIndex(({ id }) => id === caret?.step)
  return {
    name: 'pasteSteps',
    before: lesson.steps[at + 1]?.id ?? null,
    steps: steps.map((step) =>
      copyOfStep(
        step,
        ids.get(step.id)!,
        () => nanoid(10),
        (mark) => marksFor.get(mark) ?? mark,
      ),
    ),
    marks: marks.map((mark) => ({ ...mark, id: marksFor.get(mark.id)!, step: ids.get(mark.step) ?? mark.step })),
    takes: takes.map((take) => ({ ...take, id: nanoid(10), step: ids.get(take.step)! })),
    shelf,
  }
}
