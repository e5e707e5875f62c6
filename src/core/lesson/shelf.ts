import { UserError } from '@/core/userError'
import { picturesOfStep, type Lesson, type ShelfItem } from './document'

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
  if (inUse) throw new UserError('This is used in the lesson. Take it out of its steps first.')
  lesson.shelf.splice(shelfIndex(lesson, media), 1)
}

function shelfIndex(lesson: Lesson, media: string): number {
  const index = lesson.shelf.findIndex((item) => item.media === media)
  if (index < 0) throw new UserError('This file is no longer on the shelf.')
  return index
}
