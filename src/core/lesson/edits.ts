import { create } from 'mutative'
import { UserError } from '@/core/userError'
import type { Seconds } from '@/core/units'
import { copyOfStep, type Part } from './copyStep'
import { followWords } from './followWords'
import { CUT } from './layers'
import { edgesOf, stepLength, voiceLength } from './layout'
import { changeCaptions, type CaptionEdit } from './captionEdits'
import { changeLayers, type LayerEdit } from './layerEdits'
import { passageOf, stepIndex, stepOf } from './lookUp'
import { hears, marksOfSounds, marksOfStep } from './marks'
import {
  copiedMarks,
  copiedTakes,
  copyInOthers,
  forgetInOthers,
  joinInOthers,
  joinScripts,
  markAtBeginning,
  takesAfter,
} from './otherLanguages'
import { copyOfNudges, copyOfSounds, nudgesWithin, soundsWithin } from './partOfLesson'
import { isHungOn, rehang, rehangLater } from './rehang'
import { goneSteps, replaceDeck, type DeckReplacement } from './replaceDeck'
import { goesOn, splitStep, type StepPart } from '@/core/picture/scenes'
import { say } from '@/messages/say'
import { describeOnShelf, putOnShelf, swapMedia, takeOffShelf } from './shelf'
import { changeSounds, setBed, type SoundEdit } from './soundEdits'
import { assertStorable } from './storable'
import { changeTakes, type TakeEdit } from './takeEdits'
import { isInUse } from './takes'
import { withinFiles, type LengthOf } from './withinFiles'
import { changeWords, type WordEdit } from './wordEdits'
import type {
  BedCue,
  LengthRule,
  MediaHash,
  Lesson,
  Mark,
  MixTargets,
  Passage,
  Picture,
  ShelfItem,
  Step,
  Take,
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
  /** Steps of this lesson or another one, with their takes, their marks and what they need of the shelf. */
  | { name: 'pasteSteps'; before: string | null; steps: Step[]; takes: Take[]; marks: Mark[]; shelf: ShelfItem[] }
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
  | { name: 'swapMedia'; media: MediaHash; by: MediaHash }
  | { name: 'takeOffShelf'; media: string }
  | TakeEdit
  | WordEdit
  | SoundEdit
  | LayerEdit
  | CaptionEdit
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

/**
 * Does one edit; the very same lesson where it changes nothing. What hangs on words follows them, and parts of files are
 * kept inside their files, as far as `lengthOf` knows them. Throws a UserError where the edit makes no sense for this
 * lesson or would make one that can't be stored.
 */
export function applyEdit(lesson: Lesson, edit: Edit, lengthOf: LengthOf = () => undefined): Lesson {
  const changed = create(lesson, (draft) => change(draft, edit))
  if (changed === lesson) return lesson
  const next = withinFiles(followWords(lesson, changed), lengthOf)
  assertStorable(next)
  return next
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
      lesson.marks.push(...edit.marks)
      return putOnShelf(lesson, edit.shelf)
    case 'renameStep':
      stepOf(lesson, edit.step).title = edit.title
      return
    case 'setPicture':
      stepOf(lesson, edit.step).picture = edit.picture
      return
    case 'splitRecording': {
      const index = stepIndex(lesson, edit.step)
      lesson.steps.splice(index, 1, ...splitStep(lesson.steps[index]!, edit.parts, lesson.lengths))
      // From the last part to the first, so that each takes what is left of the one before it.
      for (const { id, at } of edit.parts.slice(1).reverse()) rehangLater(lesson, edit.step, at, id, 0)
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
      deleteSteps(lesson, goneSteps(lesson, edit))
      return replaceDeck(lesson, edit)
    case 'addBed': {
      const { begins } = edit.cue
      if (begins.kind === 'step') {
        stepOf(lesson, begins.step)
        clearBed(lesson, begins.step)
      }
      lesson.bedCues.push(edit.cue)
      return
    }
    case 'moveBed':
      return setBed(lesson, { ...bedOf(lesson, edit.cue), begins: { kind: 'step', step: edit.step } })
    case 'removeBed':
      lesson.bedCues.splice(lesson.bedCues.indexOf(bedOf(lesson, edit.cue)), 1)
      return
    case 'setTarget':
      lesson.targets[edit.target] = edit.value
      return
    case 'putOnShelf':
      return putOnShelf(lesson, edit.items)
    case 'swapMedia':
      return swapMedia(lesson, edit.media, edit.by)
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
    case 'placeMarks':
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
    case 'addLayers':
    case 'setLayer':
    case 'removeLayer':
    case 'moveLayer':
    case 'setEdges':
    case 'setLessonEdge':
    case 'setEnds':
    case 'setLook':
    case 'setFrame':
    case 'setLessonFraming':
    case 'setChapter':
      return changeLayers(lesson, edit)
    case 'correctCaptions':
      return changeCaptions(lesson, edit)
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

const COPIED: Record<Part, string> = { passage: '', picture: 'm', layer: 'l' }

/** Copies come after the last of their originals, in lesson order, with their takes, and the sounds and gain points on them. */
function duplicateSteps(lesson: Lesson, copies: { of: string; id: string; passages: string[] }[]): void {
  const made = copies.map(({ of, id, passages }) => {
    const step = stepOf(lesson, of)
    const sounds = soundsWithin(lesson, new Set([of]))
    const nudges = nudgesWithin(lesson, new Set([of]))
    const marks = [...new Set([...marksOfStep(step), ...marksOfSounds([...sounds, ...nudges])])]
    const markFor = (mark: string) => `${id}-k${marks.indexOf(mark)}`.slice(-40)
    const soundFor = (sound: string) => `${id}-s${sounds.findIndex((one) => one.id === sound)}`.slice(-40)
    lesson.marks.push(...copiedMarks(lesson, marks, id, markFor))
    copyInOthers(lesson, of, id, marks, markFor)
    lesson.takes.push(...copiedTakes(lesson, of, id))
    const named = { step: () => id, mark: markFor, sound: soundFor }
    lesson.sounds.push(...copyOfSounds(sounds, named))
    lesson.nudges.push(...copyOfNudges(nudges, (nudge) => `${id}-n${nudges.indexOf(nudge)}`.slice(-40), named))
    const newId = (part: Part, i: number) =>
      (part === 'passage' && passages[i]) || `${id}-${COPIED[part]}${i}`.slice(-40)
    return copyOfStep(step, id, newId, markFor)
  })
  const last = Math.max(...copies.map(({ of }) => stepIndex(lesson, of)))
  lesson.steps.splice(last + 1, 0, ...made)
}

/**
 * A bed that began with a deleted step begins with the next one that stays (or the last), unless another one does; one that
 * ended with it ends with the one before. What else hung on it, or has no place any more, stays, loose, until the author
 * says where to. Takes that are heard elsewhere belong to where they are heard; the others go.
 */
function deleteSteps(lesson: Lesson, ids: string[]): void {
  for (const id of ids) {
    const index = stepIndex(lesson, id)
    const [before, after] = [lesson.steps[index - 1], lesson.steps[index + 1]]
    const heir = after ?? before
    for (const cue of lesson.bedCues) {
      const isItsBeginning = beginsWith(cue, id)
      if (cue.last === id) cue.last = (isItsBeginning ? heir : before)?.id ?? id
      if (isItsBeginning && heir && !lesson.bedCues.some((one) => beginsWith(one, heir.id)))
        cue.begins = { kind: 'step', step: heir.id }
    }
    lesson.steps.splice(index, 1)
    lesson.takes = takesAfter(lesson.takes, id, (take) => stepUsing(lesson, take)?.id ?? null)
    forgetInOthers(lesson, id)
  }
}

const stepUsing = ({ steps }: Lesson, take: Take): Step | undefined => steps.find((step) => isInUse(step, take))

function trimPassage(lesson: Lesson, id: string, from: Seconds, to: Seconds): void {
  if (to - from < 0.01) throw new UserError(say('edits.passageTooShort'))
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
  const isNewStep = index === lesson.steps.length - 1
  const moved = splitPassages(step, at)
  if (moved.length === step.passages.length) throw new UserError(say('edits.nothingIsSaidBefore'))
  if (moved.length === 0) throw new UserError(say('edits.nothingIsSaidAfter'))
  let next = lesson.steps[index + 1]
  if (!next) {
    lesson.steps.push({
      ...step,
      id: at.newStep,
      script: '',
      leadIn: 0,
      passages: [],
      more: [],
      layers: [],
      length: { ...step.length },
      chapter: goesOn(step.chapter),
    })
    next = lesson.steps[index + 1]!
    // It goes on with the same picture.
    step.edge = CUT
  }
  step.passages = step.passages.slice(0, step.passages.length - moved.length)
  const before = edgesOf(step, lesson.lengths).leadIn + voiceLength(step) + moved[0]!.pause
  rehangLater(lesson, step.id, before, next.id, edgesOf(next, lesson.lengths).leadIn + moved[0]!.pause)
  if (isNewStep) partPins(lesson, step, next, moved)
  next.passages = mergeContiguous([...moved, ...next.passages])
  next.script = joinScripts(step.script.slice(at.scriptAt), next.script)
  step.script = step.script.slice(0, at.scriptAt).trimEnd()
}

/** Of two steps that show the same recording each keeps the pins whose words it says. */
function partPins({ marks }: Lesson, step: Step, next: Step, moved: readonly Passage[]): void {
  const [earlier, later] = [step.picture, next.picture]
  if (earlier.kind !== 'recording' || later.kind !== 'recording') return
  const goes = ({ mark: id }: { mark: string }) => {
    const place = marks.find((mark) => mark.id === id)?.place
    return place ? moved.some((passage) => hears(passage, place)) : false
  }
  next.picture = { ...later, pins: earlier.pins.filter(goes) }
  step.picture = { ...earlier, pins: earlier.pins.filter((pin) => !goes(pin)) }
}

/** Cuts the passage the break falls in, if it does, and returns the passages after the break. */
function splitPassages(step: Step, { passage: id, at, newPassage }: Break): Passage[] {
  const index = step.passages.findIndex((passage) => passage.id === id)
  const passage = step.passages[index]
  if (!passage) throw new UserError(say('edits.wordsGone'))
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
  if (!previous) throw new UserError(say('edits.nothingToJoin'))
  const goes = step.passages.length === 0 || samePicture(step.picture, previous.picture)
  const isHung =
    isHungOn(lesson, id) ||
    lesson.bedCues.some((cue) => beginsWith(cue, id)) ||
    step.layers.some(({ from }) => from === null)
  const mark = goes && step.passages.length > 0 && isHung ? `join-${step.id}`.slice(-40) : null
  if (mark) hangOnFirstWord(lesson, step, previous, mark)
  joinInOthers(lesson, step.id, previous.id, mark)
  previous.passages = mergeContiguous([...previous.passages, ...step.passages])
  previous.script = joinScripts(previous.script, step.script)
  step.passages = []
  step.script = ''
  if (!goes) return
  previous.more.push(...step.more)
  previous.layers.push(...step.layers.map((layer) => ({ ...layer, from: layer.from ?? mark })))
  previous.edge = step.edge
  if (previous.picture.kind === 'recording' && step.picture.kind === 'recording')
    previous.picture = { ...previous.picture, pins: [...previous.picture.pins, ...step.picture.pins] }
  const next = lesson.steps[index + 1]?.id
  const passed = stepLength(previous, lesson.lengths)
  rehang(lesson, id, (offset) =>
    next ? { kind: 'step', step: next, offset } : { kind: 'step', step: previous.id, offset: offset + passed },
  )
  for (const take of lesson.takes) if (take.step === id) take.step = previous.id
  deleteSteps(lesson, [id])
}

/** What hung on a step that goes hangs on its first word, which goes on in the step before. */
function hangOnFirstWord(lesson: Lesson, step: Step, previous: Step, mark: string): void {
  const into = edgesOf(step, lesson.lengths).leadIn + step.passages[0]!.pause
  lesson.marks = lesson.marks.filter(({ id }) => id !== mark)
  lesson.marks.push(markAtBeginning(mark, previous.id, previous.script, step))
  rehang(lesson, step.id, (offset) => ({ kind: 'mark', mark, offset: offset - into }))
  for (const cue of lesson.bedCues) if (beginsWith(cue, step.id)) cue.begins = { kind: 'mark', mark }
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

/** Whether one only carries on the other. Pins go with their words. */
const samePicture = (a: Picture, b: Picture) =>
  JSON.stringify({ ...a, pins: [] }) === JSON.stringify({ ...b, pins: [] })

function clearBed(lesson: Lesson, step: string): void {
  const index = lesson.bedCues.findIndex((cue) => beginsWith(cue, step))
  if (index >= 0) lesson.bedCues.splice(index, 1)
}

const placeBefore = (lesson: Lesson, id: string | null) => (id === null ? lesson.steps.length : stepIndex(lesson, id))

const beginsWith = ({ begins }: BedCue, step: string): boolean => begins.kind === 'step' && begins.step === step

function bedOf(lesson: Lesson, id: string): BedCue {
  const cue = lesson.bedCues.find((one) => one.id === id)
  if (!cue) throw new UserError(say('edits.musicGone'))
  return cue
}
