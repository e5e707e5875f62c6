import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import type { Lesson, MediaHash, Passage, ShelfItem } from './document'
import { picturesOfStep } from './usedMedia'

/** Files are named and credited once, on the shelf, wherever they are used. */

/** What lies there already keeps its name. */
export function putOnShelf(lesson: Lesson, items: readonly ShelfItem[]): void {
  for (const item of items) if (!lesson.shelf.some(({ media }) => media === item.media)) lesson.shelf.push(item)
}

export function describeOnShelf(lesson: Lesson, item: ShelfItem): void {
  lesson.shelf[shelfIndex(lesson, item.media)] = item
}

export function takeOffShelf(lesson: Lesson, media: string): void {
  const inUse =
    lesson.bedCues.some((cue) => cue.media === media) ||
    lesson.sounds.some((sound) => sound.media === media) ||
    lesson.steps.some(
      (step) =>
        picturesOfStep(step).some((picture) => picture.kind !== 'card' && picture.media === media) ||
        step.passages.some((passage) => passage.media === media),
    )
  if (inUse) throw new UserError(say('edits.fileInUse'))
  lesson.shelf.splice(shelfIndex(lesson, media), 1)
}

/** A file of the same length takes another's place wherever it is used, in every language. */
export function swapMedia(lesson: Lesson, media: MediaHash, by: MediaHash): void {
  const known = lesson.shelf.some((item) => item.media === by)
  lesson.shelf = lesson.shelf.filter((item) => item.media !== media || !known)
  for (const item of lesson.shelf) if (item.media === media) item.media = by
  for (const step of lesson.steps) {
    for (const picture of picturesOfStep(step))
      if (picture.kind !== 'card' && picture.media === media) picture.media = by
  }
  for (const used of [...lesson.bedCues, ...lesson.sounds]) if (used.media === media) used.media = by
  for (const { takes, marks } of [lesson, ...Object.values(lesson.others)]) {
    for (const { place } of marks) if (place?.media === media) place.media = by
    for (const take of takes) {
      if (take.media === media) take.media = by
      if (take.room === media) take.room = by
    }
  }
  for (const passage of passagesOf(lesson)) if (passage.media === media) passage.media = by
}

const passagesOf = ({ steps, others }: Lesson): Passage[] => [
  ...steps.flatMap(({ passages }) => passages),
  ...Object.values(others).flatMap(({ said }) => Object.values(said).flatMap(({ passages }) => passages)),
]

function shelfIndex(lesson: Lesson, media: string): number {
  const index = lesson.shelf.findIndex((item) => item.media === media)
  if (index < 0) throw new UserError(say('edits.fileGone'))
  return index
}
