/** Text as people see it: by whole letters, whatever they are made of, and without what can't be stored. */

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' })

/** The first `most` letters; an emoji or an accented letter is never cut in two. */
export function cutText(text: string, most: number): string {
  // As many code units as letters at least: a short text needs no look at its letters.
  if (text.length <= most) return text
  let count = 0
  for (const { index } of graphemes.segment(text)) if (count++ === most) return text.slice(0, index)
  return text
}

/** Text without NUL and halves of letters, which no database takes. */
export const storableText = (text: string): string => text.toWellFormed().replaceAll('\0', '')

const SUSPECT = /\\u(?:0000|d[89a-f])/i

/** Parses JSON, with every text in it made storable. Throws a SyntaxError as JSON.parse does. */
export function parseStorableJson(json: string): unknown {
  // Half letters and NUL are always written as escapes, and almost never there.
  const isPlain = !SUSPECT.test(json) && json.isWellFormed()
  return JSON.parse(json, isPlain ? undefined : (_, value) => (typeof value === 'string' ? storableText(value) : value))
}
