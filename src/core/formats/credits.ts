import type { Lesson, ShelfItem } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'

/** What is known of a piece's rights, for people who read it. */
function creditOf({ title, credit, source, licence }: ShelfItem): string {
  const parts = [credit.trim(), licence.trim() || 'licence unknown', source.trim()].filter(Boolean)
  return `“${title}”: ${parts.join(', ')}`
}

const HEADINGS: Record<ShelfItem['kind'], string> = {
  sound: 'Music and sound',
  still: 'Pictures',
  deck: 'Slides',
  recording: 'Recordings',
}

/** A text that credits everything that is seen or heard in a lesson, by kind. */
export function creditsText(lesson: Lesson): string {
  const used = mediaOf({ ...lesson, shelf: [] })
  const items = lesson.shelf.filter(({ media }) => used.has(media))
  const sections = (Object.keys(HEADINGS) as ShelfItem['kind'][]).flatMap((kind) => {
    const own = items.filter((item) => item.kind === kind)
    return own.length === 0 ? [] : [[HEADINGS[kind], ...own.map(creditOf)].join('\n')]
  })
  return [lesson.title, ...sections].join('\n\n')
}
