import isEqual from 'fast-deep-equal'
import { z } from 'zod'
import {
  bedCueSchema,
  markSchema,
  shelfItemSchema,
  soundCueSchema,
  stepSchema,
  takeSchema,
  type BedCue,
  type Lesson,
  type Mark,
  type MediaHash,
} from '@/core/lesson/document'
import { applyEdit } from '@/core/lesson/edits'
import { LIMITS } from '@/core/lesson/limits'
import { emptyLesson } from '@/core/lesson/newParts'
import { layoutLesson } from '@/core/lesson/layout'
import { marksInUse } from '@/core/lesson/marks'
import { partOfLesson } from '@/core/lesson/partOfLesson'
import { mediaOf } from '@/core/lesson/usedMedia'
import type { Seconds } from '@/core/units'

/**
 * Steps that every lesson of a course begins or ends with, with all that belongs to them. Each lesson keeps them in its own
 * document, so that it stays whole wherever it goes; they are known by their ids, which are the same in every lesson.
 */
export const sharedStepsSchema = z.object({
  steps: z.array(stepSchema).min(1).max(LIMITS.items.steps),
  takes: z.array(takeSchema).max(LIMITS.items.takes),
  marks: z.array(markSchema).max(LIMITS.items.marks),
  bedCues: z.array(bedCueSchema).max(LIMITS.items.bedCues),
  sounds: z.array(soundCueSchema).max(LIMITS.items.sounds),
  shelf: z.array(shelfItemSchema).max(LIMITS.items.shelf),
})
export type SharedSteps = z.infer<typeof sharedStepsSchema>

/** Null: each lesson begins, or ends, in its own way. */
export interface CourseEnds {
  first: SharedSteps | null
  last: SharedSteps | null
}
export type End = keyof CourseEnds
export const NO_ENDS: CourseEnds = { first: null, last: null }

/** The first or last `count` steps of a lesson, with what hangs on them. */
export function stepsAtEnd(lesson: Lesson, end: End, count: number): SharedSteps {
  const steps = end === 'first' ? lesson.steps.slice(0, count) : lesson.steps.slice(-count)
  const part = partOfLesson(lesson, new Set(steps.map(({ id }) => id)))
  // Music that goes on into this lesson ends with the steps in others.
  const goOn = bedsBeyond(lesson, steps)
  const isWithin = (cue: BedCue) => !goOn.has(cue.id) && steps.some(({ id }) => id === cue.last)
  const bedCues = part.bedCues.map((cue) => (isWithin(cue) ? cue : { ...cue, last: steps.at(-1)!.id }))
  return { ...part, bedCues }
}

/** All files they need, each once. */
export const mediaOfEnds = ({ first, last }: CourseEnds): Set<MediaHash> =>
  new Set([first, last].flatMap((shared) => (shared ? [...mediaOf({ ...emptyLesson(''), ...shared })] : [])))

/** Whether a lesson begins or ends with just these steps. What its shelf says of their files is its own matter. */
export function hasShared(lesson: Lesson, end: End, shared: SharedSteps): boolean {
  const own = stepsAtEnd(lesson, end, shared.steps.length)
  return isEqual({ ...own, shelf: null }, { ...shared, shelf: null })
}

/** A lesson that begins or ends with these steps; in place of what it has of them now. */
export function withShared(lesson: Lesson, end: End, shared: SharedSteps): Lesson {
  const { steps, takes, marks, shelf, bedCues, sounds } = shared
  const rest = withoutShared(lesson, shared)
  const without = { ...rest, marks: others(rest.marks, marks) }
  const before = end === 'first' ? (without.steps[0]?.id ?? null) : null
  let next = applyEdit(without, { name: 'pasteSteps', before, steps, takes, marks, shelf })
  for (const cue of bedCues) next = withBed(next, cue)
  return sounds.length > 0 ? applyEdit(next, { name: 'addSounds', sounds }) : next
}

const others = <T extends { id: string }>(list: readonly T[], gone: readonly { id: string }[]): T[] =>
  list.filter(({ id }) => !gone.some((one) => one.id === id))

/** Music that went on into this lesson does so again. */
function withBed(lesson: Lesson, cue: BedCue): Lesson {
  const rest = lesson.bedCues.find(({ id }) => id === cue.id)
  if (!rest) return applyEdit(lesson, { name: 'addBed', cue })
  return applyEdit(applyEdit(lesson, { name: 'removeBed', cue: rest.id }), {
    name: 'addBed',
    cue: { ...cue, last: rest.last },
  })
}

/** A lesson that begins and ends as those of its course do. */
export function withEnds(lesson: Lesson, { first, last }: CourseEnds): Lesson {
  const begun = first ? withShared(lesson, 'first', first) : lesson
  return last ? withShared(begun, 'last', last) : begun
}

/** A lesson without these steps; the very same one where it has none of them. Music that goes on after them stays. */
export function withoutShared(lesson: Lesson, shared: SharedSteps): Lesson {
  const ids = shared.steps.map(({ id }) => id).filter((id) => lesson.steps.some((step) => step.id === id))
  if (ids.length === 0) return lesson
  const bare = {
    ...lesson,
    takes: others(lesson.takes, shared.takes),
    bedCues: bedsAfter(lesson, shared),
    sounds: others(lesson.sounds, shared.sounds),
  }
  const left = applyEdit(bare, { name: 'deleteSteps', steps: ids })
  // A mark of theirs may carry something in the lesson's own steps, too.
  const inUse = marksInUse(left)
  const isGone = ({ id }: Mark) => !inUse.has(id) && shared.marks.some((one) => one.id === id)
  return { ...left, marks: left.marks.filter((mark) => !isGone(mark)) }
}

/** The music of a lesson without what plays under shared steps only; what began at a word of theirs begins after them. */
function bedsAfter(lesson: Lesson, shared: SharedSteps): BedCue[] {
  const isShared = ({ id }: { id: string }) => shared.steps.some((one) => one.id === id)
  const next = lesson.steps[lesson.steps.findLastIndex(isShared) + 1]
  const goOn = bedsBeyond(lesson, shared.steps)
  return lesson.bedCues.flatMap((cue): BedCue[] => {
    if (!shared.bedCues.some(({ id }) => id === cue.id)) return [cue]
    if (!next || !goOn.has(cue.id)) return []
    return [cue.begins.kind === 'step' ? cue : { ...cue, begins: { kind: 'step', step: next.id } }]
  })
}

/** Pieces of music that are still heard after these steps, by their ids. */
function bedsBeyond(lesson: Lesson, steps: readonly { id: string }[]): Set<string> {
  const timeline = layoutLesson(lesson)
  const end = Math.max(
    ...timeline.steps.filter(({ step }) => steps.some(({ id }) => id === step.id)).map((one) => one.end),
  )
  return new Set(timeline.beds.filter((bed) => bed.end > end + HEARD).map(({ cue }) => cue.id))
}

/** What is shorter is no music. */
const HEARD: Seconds = 0.05

/**
 * A lesson whose course was changed: where it began as the course had it, it begins as the course has it now. The very same
 * lesson where it has a beginning of its own, or begins so already.
 */
export function followShared(lesson: Lesson, end: End, before: SharedSteps | null, now: SharedSteps | null): Lesson {
  if (before && !hasShared(lesson, end, before)) return lesson
  if (now && hasShared(lesson, end, now)) return lesson
  if (!before && now?.steps.some(({ id }) => lesson.steps.some((step) => step.id === id))) return lesson
  const without = before ? withoutShared(lesson, before) : lesson
  return now ? withShared(without, end, now) : without
}
