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
