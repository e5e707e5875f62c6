import type { Patches } from 'mutative'
import type { Lesson } from './document'
import { applyEdit, applyInverse, type Edit } from './edits'
import type { LengthOf } from './withinFiles'

/** A lesson with everything done to it in this sitting. All undo and redo goes through here. */
export interface History {
  lesson: Lesson
  past: Change[]
  future: Change[]
}

interface Change {
  name: Edit['name']
  /** Leads away from the present: back for what is past, forth for what was undone. */
  patches: Patches
}

export const openHistory = (lesson: Lesson): History => ({ lesson, past: [], future: [] })

/** Throws a UserError, and changes nothing, where the edit makes no sense. */
export function doEdit(history: History, edit: Edit, lengthOf?: LengthOf): History {
  const { lesson, inverse } = applyEdit(history.lesson, edit, lengthOf)
  if (inverse.length === 0) return history
  return { lesson, past: [...history.past, { name: edit.name, patches: inverse }], future: [] }
}

/** Several edits as one change. */
export function doEdits(history: History, edits: readonly Edit[], lengthOf?: LengthOf): History {
  const done = edits.reduce((now, edit) => doEdit(now, edit, lengthOf), history)
  const changes = done.past.slice(history.past.length)
  if (changes.length < 2) return done
  const patches = changes.reverse().flatMap((change) => change.patches)
  return { ...done, past: [...history.past, { name: edits[0]!.name, patches }] }
}

/** Edits that set one thing, again and again while it is dragged or typed. */
export type ContinuedEdit = Extract<Edit, { name: 'setTarget' | 'setScript' | 'renameStep' | 'setPicture' }>

/**
 * The same as `doEdit`, but part of the change before it where that set the same thing: a slider being dragged, or a text
 * being typed, is one change, however many values it passes.
 */
export function continueEdit(history: History, edit: ContinuedEdit, first: boolean): History {
  const next = doEdit(history, edit)
  if (first || next === history || history.future.length > 0) return next
  const before = history.past.at(-1)
  // Setting one value again and again is taken back by setting it to what it was at first.
  return before?.name === edit.name ? { ...next, past: history.past } : next
}

export function undo(history: History): History {
  const last = history.past.at(-1)
  if (!last) return history
  const { lesson, inverse } = applyInverse(history.lesson, last.patches)
  return { lesson, past: history.past.slice(0, -1), future: [...history.future, { ...last, patches: inverse }] }
}

export function redo(history: History): History {
  const next = history.future.at(-1)
  if (!next) return history
  const { lesson, inverse } = applyInverse(history.lesson, next.patches)
  return { lesson, past: [...history.past, { ...next, patches: inverse }], future: history.future.slice(0, -1) }
}
