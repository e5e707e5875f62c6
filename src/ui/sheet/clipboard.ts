import { nanoid } from 'nanoid'
import { z } from 'zod'
import { shelfItemSchema, stepSchema, takeSchema, mediaOf, type Lesson } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { mediaInfoSchema } from '@/core/lesson/media'
import type { LessonState } from '../lesson/lessonStore'

/** What was copied lies in the browser's storage, so that it can be pasted in another lesson or window. */

const wordsClip = z.object({
  kind: z.literal('words'),
  words: z.object({
    pieces: z.array(z.object({ media: z.string(), from: z.number(), to: z.number(), pause: z.number() })),
    text: z.string(),
  }),
})
const stepsClipSchema = z.object({
  kind: z.literal('steps'),
  steps: z.array(stepSchema).min(1),
  takes: z.array(takeSchema),
  shelf: z.array(shelfItemSchema),
  media: z.array(mediaInfoSchema),
})
const clipSchema = z.discriminatedUnion('kind', [wordsClip, stepsClipSchema])
export type Clip = z.infer<typeof clipSchema>
type StepsClip = z.infer<typeof stepsClipSchema>

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
  const own: Lesson = { ...lesson, steps, takes, shelf: [], bedCues: [] }
  const needed = mediaOf(own)
  return {
    kind: 'steps',
    steps,
    takes,
    shelf: lesson.shelf.filter((item) => needed.has(item.media)),
    media: [...needed].flatMap((hash) => media.get(hash) ?? []),
  }
}

/** The edit that puts copied steps after the step with the caret. */
export function pasteEdit(
  { history: { lesson }, caret }: LessonState,
  { steps, takes, shelf }: StepsClip,
): Extract<Edit, { name: 'pasteSteps' }> {
  const ids = new Map(steps.map(({ id }) => [id, nanoid(10)]))
  const at = lesson.steps.findIndex(({ id }) => id === caret?.step)
  return {
    name: 'pasteSteps',
    before: lesson.steps[at + 1]?.id ?? null,
    steps: steps.map((step) => ({
      ...step,
      id: ids.get(step.id)!,
      passages: step.passages.map((passage) => ({ ...passage, id: nanoid(10) })),
    })),
    takes: takes.map((take) => ({ ...take, id: nanoid(10), step: ids.get(take.step)! })),
    shelf,
  }
}
