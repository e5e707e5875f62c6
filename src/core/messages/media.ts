import { z } from 'zod'
import { shelfKindSchema } from '@/core/lesson/document'

/** What is known of a file after import. A still has one page; sounds and recordings have a length. */
export const mediaInfoSchema = z.object({
  hash: z.string(),
  kind: shelfKindSchema,
  name: z.string(),
  /** Ending that fits the bytes, without a dot. */
  extension: z.string(),
  bytes: z.number(),
  /** Seconds; null for stills and decks. */
  length: z.number().nullable(),
  /** Channels of its sound; 0 where it has none. */
  channels: z.number(),
  /** What its sound tracks are called, where it has several; the one that is used comes from `soundTrack`, from 0. */
  soundTracks: z.array(z.string()).default([]),
  soundTrack: z.number().default(0),
  /** Title of each page as far as its text tells, else empty. */
  pages: z.array(z.string()),
  /** What each page is called in print; empty where that is just its number. */
  labels: z.array(z.string()).default([]),
  /** All that is written on each page. */
  texts: z.array(z.string()).default([]),
  /** What the speaker is to say on each page of a deck; empty where the deck tells nothing. */
  notes: z.array(z.string()).default([]),
  /** Pages of a deck, from 1, that are left out when it is shown. */
  hidden: z.array(z.number()).default([]),
  /** Pages, from 1, that stand on a dark ground where they don't fill the frame; 1 is a recording's own. */
  darkPages: z.array(z.number()).default([]),
  /** Of a recording whose sound goes on after its picture: when the last picture begins, which then stays. */
  lastPicture: z.number().nullable().default(null),
  /** What was wrong with the two channels of its sound, which is heard in the middle now. */
  sides: z.enum(['left-only', 'right-only', 'opposite']).nullable().default(null),
  /** Hum of the mains in the pauses of its sound; null: none, or brought in before it was looked for. */
  hum: z
    .object({ at: z.number(), multiples: z.array(z.number()), level: z.number() })
    .nullable()
    .default(null),
  /** Something the author should know about this file, in a sentence. */
  note: z.string().nullable(),
})
export type MediaInfo = z.infer<typeof mediaInfoSchema>

/** A title to begin with, from a file's name: `tide_table-02.png` gives `Tide table 02`. */
export function titleFromName(name: string): string {
  const words = name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
  return words ? words[0]!.toUpperCase() + words.slice(1) : name
}
