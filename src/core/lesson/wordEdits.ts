import { UserError } from '@/core/userError'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import type { Lesson, Mark, Passage, ShelfItem, Take } from './document'
import { putOnShelf } from './shelf'
import { passageOf, stepOf, takeOf } from './lookUp'
import { cutOut, type Cut } from './takeEdits'
import { isInUse } from './takes'

/** What can be done to the words of a step; the sound and the script change together. */
export type WordEdit =
  | { name: 'cutWords'; step: string; cuts: Cut[]; script: string }
  /** `at` null: after all that is said. */
  | {
      name: 'pasteWords'
      step: string
      at: { passage: string; at: Seconds; newPassage: string } | null
      pieces: Passage[]
      script: string
      /** What the words come from; kept where the lesson does not have it yet. */
      takes: Take[]
      shelf: ShelfItem[]
    }
  /** Where a word is said, set by hand; `character` is its first one in the take's script. */
  | { name: 'retimeWord'; take: string; character: number; start: Seconds; end: Seconds }
  /** Marks put among the words, or found in a take. */
  | { name: 'placeMarks'; marks: Mark[] }
  /** What lies in the take between a passage and the one before it in the step is heard again. */
  | { name: 'showHidden'; passage: string }
  /** A take is what the step's script says: the author has listened. */
  | { name: 'acceptScript'; step: string }

export function changeWords(lesson: Lesson, edit: WordEdit): void {
  switch (edit.name) {
    case 'cutWords':
      for (const cut of [...edit.cuts].sort((a, b) => b.from - a.from)) cutOut(lesson, cut)
      stepOf(lesson, edit.step).script = edit.script
      return
    case 'pasteWords':
      return pasteWords(lesson, edit)
    case 'retimeWord':
      return retimeWord(lesson, edit)
    case 'placeMarks':
      for (const mark of edit.marks) {
        const index = lesson.marks.findIndex(({ id }) => id === mark.id)
        if (index >= 0) lesson.marks[index] = mark
        else lesson.marks.push(mark)
      }
      return
    case 'showHidden':
      return showHidden(lesson, edit.passage)
    case 'acceptScript':
      return acceptScript(lesson, edit.step)
  }
}

function pasteWords(lesson: Lesson, edit: Extract<WordEdit, { name: 'pasteWords' }>) {
  const { at, pieces } = edit
  const step = stepOf(lesson, edit.step)
  step.script = edit.script
  putOnShelf(lesson, edit.shelf)
  for (const take of edit.takes) if (!lesson.takes.some(({ media }) => media === take.media)) lesson.takes.push(take)
  if (!at) {
    step.passages.push(...pieces)
    return
  }
  const index = step.passages.findIndex((passage) => passage.id === at.passage)
  const passage = step.passages[index]
  if (!passage) throw new UserError(say('edits.wordsGone'))
  if (at.at <= passage.from) step.passages.splice(index, 0, ...pieces)
  else if (at.at >= passage.to) step.passages.splice(index + 1, 0, ...pieces)
  else {
    const later = { ...passage, id: at.newPassage, from: at.at, pause: 0 }
    step.passages.splice(index, 1, { ...passage, to: at.at }, ...pieces, later)
  }
}

function retimeWord(lesson: Lesson, { take: id, character, start, end }: Extract<WordEdit, { name: 'retimeWord' }>) {
  if (end - start < 0.01) throw new UserError(say('edits.wordTooShort'))
  const take = takeOf(lesson, id)
  take.retimed = [...take.retimed.filter((one) => one.character !== character), { character, start, end }]
}

function showHidden(lesson: Lesson, id: string): void {
  const { step, index, passage } = passageOf(lesson, id)
  const before = step.passages[index - 1]
  if (!before || before.media !== passage.media || before.to >= passage.from)
    throw new UserError(say('edits.nothingIsHiddenBefore'))
  step.passages.splice(index - 1, 2, { ...before, to: passage.to })
}

function acceptScript(lesson: Lesson, id: string): void {
  const step = stepOf(lesson, id)
  for (const take of lesson.takes) {
    if (take.removed || !isInUse(step, take)) continue
    // A take that several steps share says what all of them say.
    const sharing = lesson.steps.filter((one) => isInUse(one, take))
    take.script = sharing.map(({ script }) => script.trim()).join(' ')
    take.retimed = []
  }
}
