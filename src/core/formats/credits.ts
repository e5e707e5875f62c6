import type { Lesson, MediaHash, ShelfItem } from '@/core/lesson/document'
import { mediaOf } from '@/core/lesson/usedMedia'
import { say } from '@/messages/say'

const KINDS = ['narration', 'sound', 'still', 'deck', 'recording'] as const

/** What is known of a piece's rights, for people who read it. */
function creditOf({ title, credit, source, licence }: ShelfItem, kind: (typeof KINDS)[number]): string {
  const unknown = kind === 'narration' ? '' : say('credits.licenceUnknown')
  const parts = [credit.trim(), licence.trim() || unknown, source.trim()].filter(Boolean)
  return say('credits.ofTitle', { title, credits: parts.join(', ') })
}

/**
 * A text that credits everything that is seen or heard in a lesson, by kind. An author's own voice needs no licence: narration
 * is named where somebody has noted whose it is.
 */
export function creditsText(lesson: Lesson): string {
  const used = mediaOf({ ...lesson, shelf: [] })
  const isPlaced = (media: MediaHash) => [...lesson.bedCues, ...lesson.sounds].some((cue) => cue.media === media)
  const kindOf = ({ kind, media }: ShelfItem) => (kind === 'sound' && !isPlaced(media) ? 'narration' : kind)
  const isNoted = ({ credit, licence }: ShelfItem) => credit.trim() !== '' || licence.trim() !== ''
  const items = lesson.shelf.filter((item) => used.has(item.media) && (kindOf(item) !== 'narration' || isNoted(item)))
  const sections = KINDS.flatMap((kind) => {
    const own = items.filter((item) => kindOf(item) === kind)
    return own.length === 0 ? [] : [[say(`credits.${kind}`), ...own.map((item) => creditOf(item, kind))].join('\n')]
  })
  return [lesson.title, ...sections].join('\n\n')
}
