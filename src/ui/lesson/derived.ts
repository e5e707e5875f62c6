import type { MediaHash } from '@/core/lesson/document'

/** What the server finds in, or makes of, a lesson's takes for the page. */

/** How far the cleaning of one take with one setting has come; `media` is the cleaned sound, once there is one. */
export interface Cleaning {
  progress: number
  media: MediaHash | null
  error: string | null
}

/** Something that was to be done behind the page and was not; nobody tries it again by itself. */
export interface Trouble {
  /** Such as `The voice could not be cleaned`. */
  what: string
  why: string
  again(): void
}
