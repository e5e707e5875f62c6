import type { CleanUp } from '@/core/narration/cleanUp/settings'
import type { ReadingSettings } from '@/core/narration/speechVoice'
import { UserError } from '@/core/userError'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import type { Lesson, MediaHash, Passage, Take } from './document'
import { passageOf, stepOf, takeOf } from './lookUp'
import { isInUse } from './takes'

/** What can be done to takes and to what is heard of them. */
export type TakeEdit =
  /** New takes, and what is heard of them in which step from now on. */
  | { name: 'addTakes'; takes: Take[]; heard: { step: string; passages: Passage[] }[] }
  /** Which parts of which takes a step is made of. */
  | { name: 'chooseParts'; step: string; passages: Passage[] }
  | { name: 'renameTake'; take: string; title: string }
  | { name: 'removeTake'; take: string }
  | { name: 'restoreTake'; take: string }
  /** `media` null: the lesson's voice. `cleanUp` null: as the lesson's voice. */
  | { name: 'setCleanUp'; media: MediaHash | null; cleanUp: CleanUp | null }
  | { name: 'setReading'; reading: ReadingSettings }
  | { name: 'setLanguage'; language: string }
  | { name: 'shortenPauses'; cuts: Cut[] }
  | { name: 'insertPause'; passage: string; at: Seconds; length: Seconds; newPassage: string }
  | { name: 'setPause'; passage: string; length: Seconds }
  /** A file worked on elsewhere takes the place of another; `places` are pairs of old and new time, in order. */
  | { name: 'replaceVoice'; media: MediaHash; by: MediaHash; places: [old: Seconds, now: Seconds][] }

/** A stretch of a passage that goes, in the take's time; what comes after it becomes a passage of its own. */
export interface Cut {
  passage: string
  from: Seconds
  to: Seconds
  newPassage: string
}

/** Shorter leftovers of a cut are nothing anybody could hear. */
const SHORTEST: Seconds = 0.01

export function changeTakes(lesson: Lesson, edit: TakeEdit): void {
  switch (edit.name) {
    case 'addTakes':
      lesson.takes.push(...edit.takes)
      for (const { step, passages } of edit.heard) stepOf(lesson, step).passages = passages
      return
    case 'chooseParts':
      stepOf(lesson, edit.step).passages = edit.passages
      return
    case 'renameTake':
      takeOf(lesson, edit.take).name = edit.title
      return
    case 'removeTake':
      return removeTake(lesson, edit.take)
    case 'restoreTake':
      takeOf(lesson, edit.take).removed = false
      return
    case 'setCleanUp':
      return setCleanUp(lesson, edit.media, edit.cleanUp)
    case 'setReading':
      lesson.reading = edit.reading
      return
    case 'setLanguage':
      return setLanguage(lesson, edit.language)
    case 'shortenPauses':
      for (const cut of [...edit.cuts].sort((a, b) => b.from - a.from)) cutOut(lesson, cut)
      return
    case 'insertPause':
      return insertPause(lesson, edit)
    case 'setPause':
      passageOf(lesson, edit.passage).passage.pause = edit.length
      return
    case 'replaceVoice':
      return replaceVoice(lesson, edit.media, edit.by, edit.places)
  }
}

function setLanguage(lesson: Lesson, language: string): void {
  if (language !== lesson.language && lesson.others[language]) throw new UserError(say('edits.toldAlready'))
  if (lesson.mainLanguage === lesson.language) lesson.mainLanguage = language
  lesson.language = language
}

/** What was heard of it goes with it; it comes back by undoing, or by restoring and choosing it again. */
function removeTake(lesson: Lesson, id: string): void {
  const take = takeOf(lesson, id)
  take.removed = true
  const step = lesson.steps.find((one) => one.id === take.step)
  if (step && isInUse(step, take))
    step.passages = step.passages.filter(
      ({ media, from, to }) => media !== take.media || from >= take.to || to <= take.from,
    )
}

function setCleanUp(lesson: Lesson, media: MediaHash | null, cleanUp: CleanUp | null): void {
  if (media === null) {
    if (cleanUp) lesson.cleanUp = cleanUp
    return
  }
  const own = lesson.takes.filter((take) => take.media === media)
  if (own.length === 0) throw new UserError(say('edits.takeGone'))
  for (const take of own) take.cleanUp = cleanUp
}

/** Cuts are made from the end of the lesson's takes to the beginning, so that ids of earlier parts stay. */
export function cutOut(lesson: Lesson, { passage: id, from, to, newPassage }: Cut): void {
  const { step, index, passage } = passageOf(lesson, id)
  const rest: Passage[] = []
  if (from - passage.from >= SHORTEST) rest.push({ ...passage, to: from })
  if (passage.to - to >= SHORTEST)
    rest.push(rest.length > 0 ? { ...passage, id: newPassage, from: to, pause: 0 } : { ...passage, from: to })
  step.passages.splice(index, 1, ...rest)
}

function insertPause(
  lesson: Lesson,
  { passage: id, at, length, newPassage }: Extract<TakeEdit, { name: 'insertPause' }>,
) {
  const { step, index, passage } = passageOf(lesson, id)
  if (at <= passage.from + SHORTEST) {
    passage.pause += length
    return
  }
  if (at >= passage.to - SHORTEST) {
    const next = step.passages[index + 1]
    if (next) next.pause += length
    else step.tail += length
    return
  }
  step.passages.splice(index, 1, { ...passage, to: at }, { ...passage, id: newPassage, from: at, pause: length })
}

function replaceVoice(lesson: Lesson, media: MediaHash, by: MediaHash, places: [Seconds, Seconds][]): void {
  const carry = (time: Seconds) => carried(time, places)
  for (const step of lesson.steps) {
    step.passages = step.passages.map((passage) =>
      passage.media === media
        ? {
            ...passage,
            media: by,
            from: carry(passage.from),
            to: Math.max(carry(passage.to), carry(passage.from) + SHORTEST),
          }
        : passage,
    )
  }
  for (const take of lesson.takes) {
    if (take.media !== media) continue
    take.media = by
    take.from = carry(take.from)
    take.to = carry(take.to)
    take.retimed = take.retimed.map((word) => ({ ...word, start: carry(word.start), end: carry(word.end) }))
  }
  for (const mark of lesson.marks) if (mark.place?.media === media) mark.place = { media: by, at: carry(mark.place.at) }
}

/** Straight lines between the pairs, and beyond them at the same speed. */
function carried(time: Seconds, places: readonly [Seconds, Seconds][]): Seconds {
  const next = places.findIndex(([old]) => old >= time)
  if (next === 0 || places.length === 0) return Math.max(0, time + (places[0] ? places[0][1] - places[0][0] : 0))
  if (next < 0) return time + places.at(-1)![1] - places.at(-1)![0]
  const [a, b] = [places[next - 1]!, places[next]!]
  return a[1] + ((time - a[0]) / (b[0] - a[0])) * (b[1] - a[1])
}
