import isEqual from 'fast-deep-equal'
import type { Lesson } from './document'
import { applyEdit, type Edit } from './edits'
import type { LengthOf } from './withinFiles'

/**
 * A lesson with everything done to it in this sitting. All undo and redo goes through here. Lessons are never changed in
 * place and share what they have in common, so that keeping each as it was costs little and going back to it is exact.
 */
export interface History {
  lesson: Lesson
  past: Change[]
  future: Change[]
}

interface Change {
  name: Edit['name']
  /** On the other side of the change: as it was before what is past, as it became by what was undone. */
  lesson: Lesson
  /** What was done elsewhere since, in its order: added when one goes there, which most of the time nobody does. */
  toAdd: readonly Add[]
}

/** Adds something to a lesson that was done elsewhere; null where that can't be. */
type Add = (lesson: Lesson) => Lesson | null

export const openHistory = (lesson: Lesson): History => ({ lesson, past: [], future: [] })

/** Throws a UserError, and changes nothing, where the edit makes no sense. What sets a thing to what it is is nothing to undo. */
export function doEdit(history: History, edit: Edit, lengthOf?: LengthOf): History {
  const lesson = applyEdit(history.lesson, edit, lengthOf)
  return isEqual(lesson, history.lesson) ? history : changed(history, edit.name, lesson)
}

const changed = ({ lesson: before, past }: History, name: Edit['name'], lesson: Lesson): History => ({
  lesson,
  past: [...past, { name, lesson: before, toAdd: [] }],
  future: [],
})

/** Several edits as one change. */
export function doEdits(history: History, edits: readonly Edit[], lengthOf?: LengthOf): History {
  const done = edits.reduce((now, edit) => doEdit(now, edit, lengthOf), history)
  if (done === history) return history
  return { ...done, past: [...history.past, { name: nameOf(edits), lesson: history.lesson, toAdd: [] }] }
}

/** What several edits are called: marks and what is on the shelf are put there for something. */
const nameOf = (edits: readonly Edit[]): Edit['name'] =>
  (edits.find(({ name }) => name !== 'placeMarks' && name !== 'putOnShelf') ?? edits[0]!).name

/** A change that nobody has asked for and that follows from the one before it: it is undone with it. */
export function settle(history: History, edit: Edit): History {
  return { ...history, lesson: applyEdit(history.lesson, edit) }
}

/**
 * Something done elsewhere is added to the lesson as it is and as it was: undoing what was done here does not undo it. What
 * can be undone ends where it can't be added (null).
 */
export function rebase({ lesson, past, future }: History, add: Add): History {
  const later = (change: Change): Change => ({ ...change, toAdd: [...change.toAdd, add] })
  return { lesson: add(lesson) ?? lesson, past: past.map(later), future: future.map(later) }
}

/** The lesson on the other side of a change, with what was done elsewhere since. */
const reached = ({ lesson, toAdd }: Change): Lesson | null =>
  toAdd.reduce<Lesson | null>((now, add) => now && add(now), lesson)

/** Edits that set one thing, again and again while it is dragged or typed. */
export type ContinuedEdit = Extract<
  Edit,
  {
    name:
      | 'setTarget'
      | 'setPocket'
      | 'setCleanUp'
      | 'setLessonFraming'
      | 'setScript'
      | 'renameStep'
      | 'setPicture'
      | 'setLayer'
      | 'setChapter'
      | 'setSound'
      | 'correctCaptions'
  }
>

/**
 * The same as `doEdit`, but part of the change before it where that set the same thing: a slider being dragged, or a text
 * being typed, is one change, however many values it passes.
 */
export function continueEdit(history: History, edit: ContinuedEdit, first: boolean): History {
  // The first one is a change whatever it sets: the next must not become part of the change before.
  const next = changed(history, edit.name, applyEdit(history.lesson, edit))
  if (first || history.future.length > 0) return next
  return history.past.at(-1)?.name === edit.name ? { ...next, past: history.past } : next
}

export function undo({ lesson, past, future }: History): History {
  const last = past.at(-1)
  if (!last) return { lesson, past, future }
  const there = reached(last)
  if (!there) return { lesson, past: [], future }
  return { lesson: there, past: past.slice(0, -1), future: [...future, { name: last.name, lesson, toAdd: [] }] }
}

export function redo({ lesson, past, future }: History): History {
  const next = future.at(-1)
  if (!next) return { lesson, past, future }
  const there = reached(next)
  if (!there) return { lesson, past, future: [] }
  return { lesson: there, past: [...past, { name: next.name, lesson, toAdd: [] }], future: future.slice(0, -1) }
}
