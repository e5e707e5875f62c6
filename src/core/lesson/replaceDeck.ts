import type { Lesson, Picture, ShelfItem, Step } from './document'
import { picturesOf } from './fromFile'
import { hangingInStep } from './hanging'
import { newStep, newStill } from './newParts'
import { isNothing, isSaidInOthers } from './otherLanguages'
import { LIMITS } from './limits'
import { isHungOn } from './rehang'
import { isInUse, takesOf } from './takes'
import { cutText } from '@/core/text'
import type { PageMatch } from '@/core/messages/job'
import type { MediaInfo } from '@/core/messages/media'

/** A new version of a deck takes the place of the old one. */
export interface DeckReplacement {
  old: string
  now: ShelfItem
  pages: readonly PageMatch[]
  /** Title and id for the step of each new page, by its number, and what is to be said in it. */
  added: { page: number; id: string; title: string; script: string }[]
}

/** What a page of a deck calls a step, or wants said in it, where that is no longer what it was. */
export interface ChangedText {
  step: string
  what: 'title' | 'script'
  page: number
  before: string
  now: string
  /** Whether the step still has what the old deck said, so that nothing of the author's is lost by taking the new. */
  isAsBefore: boolean
}

/** Titles and notes of pages that stay and were changed, for the steps that show them as their own picture. */
export function changedTexts(
  steps: readonly Step[],
  old: MediaInfo,
  now: MediaInfo,
  pages: readonly PageMatch[],
): ChangedText[] {
  const becomes = stayingPages(pages)
  const called = picturesOf(old)
  return steps.flatMap(({ id, title, script, picture }) => {
    const page = picture.kind === 'still' && picture.media === old.hash ? becomes.get(picture.page) : undefined
    if (picture.kind !== 'still' || page === undefined) return []
    const of = (what: ChangedText['what'], own: string, before = '', after = ''): ChangedText[] =>
      after.trim() === '' || after === before || after === own
        ? []
        : [{ step: id, what, page, before, now: after, isAsBefore: own === before }]
    return [
      ...of('title', title, called[picture.page - 1]?.title, now.pages[page - 1]),
      ...of('script', script, old.notes[picture.page - 1], now.notes[page - 1]),
    ]
  })
}

const stayingPages = (pages: readonly PageMatch[]) =>
  new Map(pages.flatMap((one) => (one.old !== null && one.now !== null ? [[one.old, one.now]] : [])))

/** Takes of a step that can still be chosen, and are heard nowhere. */
const hasUnheardTakes = (lesson: Lesson, step: string): boolean =>
  takesOf(lesson, step).some((take) => !lesson.steps.some((one) => isInUse(one, take)))

/**
 * Steps that go with their pages: nothing is said in them in any language, nothing else is seen in them or lies over
 * their slide, no sound hangs on them, and no take waits in them.
 */
export function goneSteps(lesson: Lesson, { old, pages }: Pick<DeckReplacement, 'old' | 'pages'>): string[] {
  const becomes = stayingPages(pages)
  const isUsed = (step: Step) =>
    !isNothing(step) ||
    hangingInStep(step).length > 0 ||
    isHungOn(lesson, step.id) ||
    isSaidInOthers(lesson, step.id) ||
    hasUnheardTakes(lesson, step.id)
  return lesson.steps
    .filter(({ picture }) => picture.kind === 'still' && picture.media === old && !becomes.has(picture.page))
    .filter((step) => !isUsed(step))
    .map(({ id }) => id)
}

/**
 * Pages that are still there keep their steps, words and timing. A new page becomes a step after that of the page before
 * it; a page that is gone leaves a card with its step's title.
 */
export function replaceDeck(lesson: Lesson, { old, now, pages, added }: DeckReplacement): void {
  const becomes = stayingPages(pages)
  const renewed = (picture: Picture, title: string): Picture => {
    if (picture.kind !== 'still' || picture.media !== old) return picture
    const page = becomes.get(picture.page)
    return page === undefined
      ? { kind: 'card', lines: [cutText(title, LIMITS.lineCharacters)] }
      : newStill(now.media, page)
  }
  lesson.steps = lesson.steps.map((step) => ({
    ...step,
    picture: renewed(step.picture, step.title),
    more: step.more.map((one) => ({ ...one, picture: renewed(one.picture, step.title) })),
  }))
  for (const { page, id, title, script } of [...added].sort((a, b) => a.page - b.page)) {
    const before = lesson.steps.findLastIndex(
      ({ picture }) => picture.kind === 'still' && picture.media === now.media && picture.page < page,
    )
    const step = { ...newStep(id, title, newStill(now.media, page)), script }
    lesson.steps.splice(before + 1, 0, step)
  }
  const shelf = lesson.shelf.filter(({ media }) => media !== now.media)
  lesson.shelf = shelf.map((item) => (item.media === old ? now : item))
  if (!lesson.shelf.includes(now)) lesson.shelf.push(now)
}
