import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'

/** What the server has of a lesson. */
export interface StoredLesson {
  lesson: LessonDocument
  revision: number
  /** Of the save that led to this revision. */
  save: string | null
  savedAt: string
  course: { id: string; title: string }
  media: MediaInfo[]
}
