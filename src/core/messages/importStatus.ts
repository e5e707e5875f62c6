import type { MediaInfo } from './media'

/** A file on its way to the shelf, as the page shows it. */
export interface ImportStatus {
  id: string
  name: string
  state: 'waiting' | 'working' | 'done' | 'failed'
  /** 0..1 */
  progress: number
  error: string | null
  media: MediaInfo | null
  /** Set where a saved copy of a lesson was brought in. */
  lessonId: string | null
}
