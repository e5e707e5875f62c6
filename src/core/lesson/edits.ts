import { create, apply, type Patches } from 'mutative'
import { UserError } from '@/core/userError'
import type { Seconds } from '@/core/units'
import { passageOf, stepIndex, stepOf } from './lookUp'
import { replaceDeck, type DeckReplacement } from './replaceDeck'
import { splitStep, type StepPart } from './scenes'
import { describeOnShelf, putOnShelf, takeOffShelf } from './shelf'
import { changeSounds, type SoundEdit } from './soundEdits'
import { assertStorable } from './storable'
import { changeTakes, type TakeEdit } from './takeEdits'
import { withinFiles, type LengthOf } from './withinFiles'
import { changeWords, type WordEdit } from './wordEdits'
import {
  type BedCue,
  type LengthRule,
  type Lesson,
  type MixTargets,
  type Passage,
  type Picture,
  type ShelfItem,
  type Step,
  type Take,
} from './document'

/**
 * Everything that can be done to a lesson. Each edit carries the user's word for it, and all it needs:
 * ids of what it creates come with it, so that applying it twice to the same document gives the same result.
 */
export type Edit =
  | { name: 'renameLesson'; title: string }
  | { name: 'addSteps'; before: string | null; steps: Step[] }
  | { name: 'moveSteps'; steps: string[]; before: string | null }
  | { name: 'duplicateSteps'; copies: { of: string; id: string; passages: string[] }[] }
  | { name: 'deleteSteps'; steps: string[] }
  /** Steps of this lesson or another one, with their takes and what they need of the shelf. */
  | { name: 'pasteSteps'; before: string | null; steps: Step[]; takes: Take[]; shelf: ShelfItem[] }
  | { name: 'renameStep'; step: string; title: string }
  | { name: 'setPicture'; step: string; picture: Picture }
  | { name: 'setScript'; step: string; script: string }
  /** A step with a recording becomes one a scene. */
  | { name: 'splitRecording'; step: string; parts: StepPart[] }
  | { name: 'setLength'; step: string; length: LengthRule }
  | { name: 'setLengthOf'; steps: string[]; length: LengthRule }
  | { name: 'setLeadIn'; step: string; leadIn: Seconds }
  | { name: 'setTail'; step: string; tail: Seconds }
  | { name: 'placePassage'; step: string; passage: Passage; index: number }
  | { name: 'trimPassage'; passage: string; from: Seconds; to: Seconds }
  | { name: 'removePassage'; passage: string }
  | ({ name: 'breakStep' } & Break)
  | { name: 'joinStep'; step: string }
  | ({ name: 'replaceDeck' } & DeckReplacement)
  | { name: 'addBed'; cue: BedCue }
  | { name: 'moveBed'; cue: string; step: string }
  | { name: 'removeBed'; cue: string }
  | { name: 'setTarget'; target: keyof MixTargets; value: number }
  | { name: 'putOnShelf'; items: ShelfItem[] }
  | { name: 'describeMedia'; item: ShelfItem }
  | { name: 'takeOffShelf'; media: string }
  | TakeEdit
  | WordEdit
  | SoundEdit
  /** Everything as it was in an earlier version. */
  | { name: 'restore'; lesson: Lesson }

/** A place within a step's voice, and what is made if it has to be cut there. */
export interface Break {
  step: string
  /** Passage the break falls in, and where in its take. Between passages: the later one's start. */
  passage: string
  at: Seconds
  /** How many characters of the script stay with the earlier step. */
  scriptAt: number
  /** Ids for the passage and the step that may be created. */
  newPassage: string
  newStep: string
}

export interface AppliedEdit {
  lesson: Lesson
  /** Takes `lesson` back to what it was, to the byte. */
  inverse: Patches
}

/**
 * Applies one edit. Parts of files are kept inside their files, as far as `lengthOf` knows them. Throws a UserError, and
 * changes nothing, where the edit makes no sense for this lesson or would make one that can't be stored.
 */
export function applyEdit(lesson: Lesson, edit: Edit, lengthOf: LengthOf = () => undefined): AppliedEdit {
  const [next, , inverse] = create(lesson, (draft) => change(draft, edit), { enablePatches: true })
  if (inverse.length === 0) return { lesson: next, inverse }
  const inside = withinFiles(next, lengthOf)
  assertStorable(inside)
  if (inside === next) return { lesson: next, inverse }
  const [bounded, , back] = create(next, (draft) => void Object.assign(draft, inside), { enablePatches: true })
  return { lesson: bounded, inverse: [...back, ...inverse] as Patches }
}

/** Undoes an edit on the very document it led to. Returns the patches that do it again, too. */
export function applyInverse(lesson: Lesson, inverse: Patches): AppliedEdit {
  const [next, , again] = create(lesson, (draft) => void apply(draft, inverse, { mutable: true }), {
    enablePatches: true,
  })
  return { lesson: next, inverse: again }
}

function change(lesson: Lesson, edit: Edit): void {
  switch (edit.name) {
    case 'renameLesson':
      lesson.title = edit.title
      return
    case 'addSteps':
      lesson.steps.splice(placeBefore(lesson, edit.before), 0, ...edit.steps)
      return
    case 'moveSteps':
      return moveSteps(lesson, edit.steps, edit.before)
    case 'duplicateSteps':
      return duplicateSteps(lesson, edit.copies)
    case 'deleteSteps':
      return deleteSteps(lesson, edit.steps)
    case 'pasteSteps':
      lesson.steps.splice(placeBefore(lesson, edit.before), 0, ...edit.steps)
      lesson.takes.push(...edit.takes)
      return putOnShelf(lesson, edit.shelf)
    case 'renameStep':
      stepOf(lesson, edit.step).title = edit.title
      return
    case 'setPicture':
      stepOf(lesson, edit.step).picture = edit.picture
      return
    case 'splitRecording': {
      const index = stepIndex(lesson, edit.step)
      lesson.steps.splice(index, 1, ...splitStep(lesson.steps[index]!, edit.parts))
      return
    }
    case 'setScript':
      stepOf(lesson, edit.step).script = edit.script
      return
    case 'setLength':
      stepOf(lesson, edit.step).length = edit.length
      return
    case 'setLengthOf':
      for (const id of edit.steps) stepOf(lesson, id).length = { ...edit.length }
      return
    case 'setLeadIn':
      stepOf(lesson, edit.step).leadIn = edit.leadIn
      return
    case 'setTail':
      stepOf(lesson, edit.step).tail = edit.tail
      return
    case 'placePassage':
      stepOf(lesson, edit.step).passages.splice(edit.index, 0, edit.passage)
      return
    case 'trimPassage':
      return trimPassage(lesson, edit.passage, edit.from, edit.to)
    case 'removePassage': {
      const { step, index } = passageOf(lesson, edit.passage)
      step.passages.splice(index, 1)
      return
    }
    case 'breakStep':
      return breakStep(lesson, edit)
    case 'joinStep':
      return joinStep(lesson, edit.step)
    case 'replaceDeck':
      return replaceDeck(lesson, edit)
    case 'addBed':
      stepOf(lesson, edit.cue.step)
      clearBed(lesson, edit.cue.step)
      lesson.bedCues.push(edit.cue)
      return
    case 'moveBed':
      stepOf(lesson, edit.step)
      if (bedOf(lesson, edit.cue).step === edit.step) return
      clearBed(lesson, edit.step)
      bedOf(lesson, edit.cue).step = edit.step
      return
    case 'removeBed':
      lesson.bedCues.splice(lesson.bedCues.indexOf(bedOf(lesson, edit.cue)), 1)
      return
    case 'setTarget':
      lesson.targets[edit.target] = edit.value
      return
    case 'putOnShelf':
      return putOnShelf(lesson, edit.items)
    case 'describeMedia':
      return describeOnShelf(lesson, edit.item)
    case 'takeOffShelf':
      return takeOffShelf(lesson, edit.media)
    case 'restore':
      Object.assign(lesson, edit.lesson)
      return
    case 'cutWords':
    case 'pasteWords':
    case 'retimeWord':
    case 'showHidden':
    case 'acceptScript':
      return changeWords(lesson, edit)
    case 'addTakes':
    case 'chooseParts':
    case 'renameTake':
    case 'removeTake':
    case 'restoreTake':
    case 'setCleanUp':
    case 'setReading':
    case 'setLanguage':
    case 'shortenPauses':
    case 'insertPause':
    case 'setPause':
    case 'replaceVoice':
      return changeTakes(lesson, edit)
    default:
      changeSounds(lesson, edit)
  }
}

function moveSteps(lesson: Lesson, ids: string[], before: string | null): void {
  const moved = ids.map((id) => stepOf(lesson, id))
  // Dropped on one of themselves, they gather there: the place is that of the next step that stays.
  const from = before === null ? lesson.steps.length : lesson.steps.findIndex((step) => step.id === before)
  const anchor = lesson.steps.slice(from).find((step) => !ids.includes(step.id))
  const rest = lesson.steps.filter((step) => !ids.includes(step.id))
  const at = anchor ? rest.indexOf(anchor) : rest.length
  lesson.steps = [...rest.slice(0, at), ...moved, ...rest.slice(at)]
}

/** Copies come after the last of their originals, in lesson order. */
function duplicateSteps(lesson: Lesson, copies: { of: string; id: string; passages: string[] }[]): void {
  const made = copies.map(({ of, id, passages }) => {
    const step = stepOf(lesson, of)
    return {
      ...step,
      id,
      passages: step.passages.map((passage, i) => ({ ...passage, id: passages[i] ?? `${id}-${i}` })),
      more: step.more.map((one, i) => ({ ...one, id: `${id}-m${i}`.slice(-40) })),
    }
  })
  const last = Math.max(...copies.map(({ of }) => stepIndex(lesson, of)))
  lesson.steps.splice(last + 1, 0, ...made)
}

/**
 * A bed that started with a deleted step starts with the next one that stays (or the last); one that ended with it ends
 * with the one before. Sounds that hung on it stay, loose, until the author says where to.
 */
function deleteSteps(lesson: Lesson, ids: string[]): void {
  for (const id of ids) {
    const index = stepIndex(lesson, id)
    const heir = lesson.steps[index + 1] ?? lesson.steps[index - 1]
    const cue = lesson.bedCues.find(({ step }) => step === id)
    if (cue && heir && !lesson.bedCues.some(({ step }) => step === heir.id)) cue.step = heir.id
    else clearBed(lesson, id)
    lesson.nudges = lesson.nudges.filter(({ step }) => step !== id)
    for (const bed of lesson.bedCues) if (bed.last === id) bed.last = lesson.steps[index - 1]?.id ?? null
    lesson.steps.splice(index, 1)
  }
}

function trimPassage(lesson: Lesson, id: string, from: Seconds, to: Seconds): void {
  if (to - from < 0.01) throw new UserError('A passage can not be shorter than a hundredth of a second.')
  const { step, index } = passageOf(lesson, id)
  step.passages[index]!.from = from
  step.passages[index]!.to = to
}

/**
 * The next step starts here: what is said after the break goes to the front of the next step.
 * After the last step a new one is made with the same picture. Nothing is lost, so joining gives back what was.
 */
function breakStep(lesson: Lesson, at: Break): void {
  const index = stepIndex(lesson, at.step)
  const step = lesson.steps[index]!
  const moved = splitPassages(step, at)
  if (moved.length === step.passages.length) throw new UserError('Nothing is said before this place in the step.')
  if (moved.length === 0) throw new UserError('Nothing is said after this place in the step.')
  let next = lesson.steps[index + 1]
  if (!next) {
    lesson.steps.push({
      ...step,
      id: at.newStep,
      script: '',
      leadIn: 0,
      passages: [],
      more: [],
      length: { ...step.length },
    })
    next = lesson.steps[index + 1]!
  }
  step.passages = step.passages.slice(0, step.passages.length - moved.length)
  next.passages = mergeContiguous([...moved, ...next.passages])
  next.script = joinText(step.script.slice(at.scriptAt), next.script)
  step.script = step.script.slice(0, at.scriptAt).trimEnd()
}

/** Cuts the passage the break falls in, if it does, and returns the passages after the break. */
function splitPassages(step: Step, { passage: id, at, newPassage }: Break): Passage[] {
  const index = step.passages.findIndex((passage) => passage.id === id)
  const passage = step.passages[index]
  if (!passage) throw new UserError('These words are no longer in this step.')
  if (at <= passage.from) return step.passages.slice(index)
  if (at >= passage.to) return step.passages.slice(index + 1)
  const later = { ...passage, id: newPassage, from: at, pause: 0 }
  passage.to = at
  step.passages.splice(index + 1, 0, later)
  return step.passages.slice(index + 1)
}

/**
 * Joins what is said in a step to the end of the step before. The picture stays as an empty step;
 * an empty step, or one that only carried on the same picture, goes.
 */
function joinStep(lesson: Lesson, id: string): void {
  const index = stepIndex(lesson, id)
  const step = lesson.steps[index]!
  const previous = lesson.steps[index - 1]
  if (!previous) throw new UserError('This is the first step: there is nothing before it to join.')
  const goes = step.passages.length === 0 || samePicture(step.picture, previous.picture)
  previous.passages = mergeContiguous([...previous.passages, ...step.passages])
  previous.script = joinText(previous.script, step.script)
  step.passages = []
  step.script = ''
  if (goes) deleteSteps(lesson, [id])
}

/** Two passages that follow each other in one take are one. */
function mergeContiguous(passages: Passage[]): Passage[] {
  const merged: Passage[] = []
  for (const passage of passages) {
    const last = merged.at(-1)
    if (last && last.media === passage.media && last.to === passage.from && passage.pause === 0) {
      merged[merged.length - 1] = { ...last, to: passage.to }
    } else merged.push({ ...passage })
  }
  return merged
}

const joinText = (first: string, second: string) => [first.trim(), second.trim()].filter(Boolean).join(' ')

const samePicture = (a: Picture, b: Picture) => JSON.stringify(a) === JSON.stringify(b)

function clearBed(lesson: Lesson, step: string): void {
  const index = lesson.bedCues.findIndex((cue) => cue.step === step)
  if (index >= 0) lesson.bedCues.splice(index, 1)
}

const placeBefore = (lesson: Lesson, id: string | null) => (id === null ? lesson.steps.length : stepIndex(lesson, id))

function bedOf(lesson: Lesson, id: string): BedCue {
  const cue = lesson.bedCues.find((one) => one.id === id)
  if (!cue) throw new UserError('This music is no longer in the lesson.')
  return cue
}
