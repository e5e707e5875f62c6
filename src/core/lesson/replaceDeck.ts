import { newStep, type Lesson, type Picture, type ShelfItem } from './document'
import type { PageMatch } from './task'

/** A new version of a deck takes the place of the old one. */
export interface DeckReplacement {
  old: string
  now: ShelfItem
  pages: readonly PageMatch[]
  /** Title and id for the step of each new page, by its number. */
  added: { page: number; id: string; title: string }[]
}

/**
 * Pages that are still there keep their steps, words and timing. A new page becomes a step after that of the page before
 * it; a page that is gone leaves a card with its title where something is said, and goes where nothing is.
 */
export function replaceDeck(lesson: Lesson, { old, now, pages, added }: DeckReplacement): void {
  const becomes = new Map(pages.flatMap((one) => (one.old !== null && one.now !== null ? [[one.old, one.now]] : [])))
  const renewed = (picture: Picture, title: string): Picture | null => {
    if (picture.kind !== 'still' || picture.media !== old) return picture
    const page = becomes.get(picture.page)
    return page === undefined ? { kind: 'card', lines: [title] } : { kind: 'still', media: now.media, page }
  }
  const isGone = (picture: Picture) => picture.kind === 'still' && picture.media === old && !becomes.has(picture.page)
  lesson.steps = lesson.steps
    .filter((step) => !(isGone(step.picture) && step.passages.length === 0 && step.script.trim() === ''))
    .map((step) => ({
      ...step,
      picture: renewed(step.picture, step.title)!,
      more: step.more
        .filter(({ picture }) => !isGone(picture))
        .map((one) => ({ ...one, picture: renewed(one.picture, step.title)! })),
    }))
  for (const { page, id, title } of [...added].sort((a, b) => a.page - b.page)) {
    const before = lesson.steps.findLastIndex(
      ({ picture }) => picture.kind === 'still' && picture.media === now.media && picture.page < page,
    )
    lesson.steps.splice(before + 1, 0, newStep(id, title, { kind: 'still', media: now.media, page }))
  }
  const shelf = lesson.shelf.filter(({ media }) => media !== now.media)
  lesson.shelf = shelf.map((item) => (item.media === old ? now : item))
  if (!lesson.shelf.includes(now)) lesson.shelf.push(now)
}
