import { UserError } from '@/core/userError'
import { say } from '@/messages/say'

/** A deck of more pages is no lesson. */
export const MOST_PAGES = 500

/** Before any of them is read. */
export function assertFewSlides(count: number, name: string): void {
  if (count > MOST_PAGES) throw new UserError(say('imports.tooManyPages', { count, name, most: MOST_PAGES }))
}

/** What a slide deck says of its slides besides how they look, in their order. */
export interface SlideShow {
  slides: SlideNotes[]
  /** Families of letters that it is written in. */
  fonts: string[]
}

export interface SlideNotes {
  title: string
  /** What the speaker is to say; a line a paragraph. */
  notes: string
  /** Left out when it is shown. */
  isHidden: boolean
}

/** Paragraphs as they are read: no blank lines, which would part a script. */
export const paragraphs = (lines: readonly string[]): string =>
  lines
    .map((line) => line.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
    .join('\n')
