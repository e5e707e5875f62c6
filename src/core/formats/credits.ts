import type { Lesson, ShelfItem } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import { say } from '@/messages/say'

/** What is known of a piece's rights, for people who read it. */
function creditOf({ title, credit, source, licence }: ShelfItem): string {
  const parts = [credit.trim(), licence.trim() || say('credits.licenceUnknown'), source.trim()].filter(Boolean)
  return say('credits.ofTitle', { title, credits: parts.join(', ') })
}

const KINDS = ['sound', 'still', 'deck', 'recording'] as const

/** A text that credits everything that is seen or heard in a lesson, by kind. */
export function creditsText(lesson: Lesson): string {
  const used = mediaOf({ ...lesson, shelf: [] })
  const items = lesson.shelf.filter(({ media }) => used.has(media))
  const sections = KINDS.flatMap((kind) => {
    const own = items.filter((item) => item.kind === kind)
    return own.length === 0 ? [] : [[say(`credits.${kind}`), ...own.map(creditOf)].join('\n')]
  })
  return [lesson.title, ...sections].join('\n\n')
}
