import type { LessonDocument } from '@/core/lesson/document'
import type { MediaInfo } from '@/core/messages/media'
import { call, Refusal } from '../api'

/** What the server has of a lesson, and whether some of `saves`, to which no answer came, were done. */
export const askStored = (id: string, saves: readonly string[] = []): Promise<StoredLesson> =>
  call(`/api/lessons/${id}${saves.length > 0 ? `?saves=${saves.join(',')}` : ''}`)

/** A version as it was stored, in whatever language it was told then; null where it was thinned out. */
export async function askRevision(id: string, revision: number): Promise<LessonDocument | null> {
  try {
    return (await call<Pick<StoredLesson, 'lesson'>>(`/api/lessons/${id}/revisions/${revision}`)).lesson
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}

/** What the server has of a lesson. */
export interface StoredLesson {
  lesson: LessonDocument
  revision: number
  /** The newest revision that one of the saves led to which were asked about; null: none of them. */
  done: number | null
  savedAt: string
  course: { id: string; title: string }
  media: MediaInfo[]
}
