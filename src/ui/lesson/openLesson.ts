import type { Lesson, LessonDocument } from '@/core/lesson/document'
import { tell } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import type { MediaInfo } from '@/core/messages/media'
import { call } from '../api'
import { savesOfLeftLessons, type SavedBefore } from './autosave'
import { dropDraft, findDraft, type Draft } from './drafts'

/** What the server has of a lesson. */
interface StoredLesson {
  lesson: LessonDocument
  revision: number
  /** Of the save that led to this revision. */
  save: string | null
  savedAt: string
  course: { id: string; title: string }
  media: MediaInfo[]
}

/** A lesson to be worked on: as it was left, be that stored or only kept in this browser. */
export interface OpenedLesson {
  lesson: Lesson
  media: MediaInfo[]
  course: { id: string; title: string }
  saved: SavedBefore
}

/** Asks for a lesson as it is stored now, after all that this page has still to save of it. */
export async function openLesson(id: string): Promise<OpenedLesson> {
  await savesOfLeftLessons(id)
  const [stored, draft] = await Promise.all([call<StoredLesson>(`/api/lessons/${id}`), findDraft(id).catch(() => null)])
  const { revision, course, media, savedAt } = stored
  const lesson = tell(stored.lesson)
  // A draft that was stored after all must not stand against what comes later.
  const drafted = draft && lessonOf(draft)
  const isStored = drafted !== null && isDone(drafted, stored)
  if (draft && isStored) await dropDraft(draft.key).catch(() => {})
  if (!draft || !drafted || isStored)
    return { lesson, media, course, saved: { lesson, revision, draft: null, conflict: null } }
  const conflict = isBasedOn(draft, stored) ? null : { savedAt }
  return {
    lesson: drafted,
    media: [...media, ...draft.media],
    course,
    saved: { lesson, revision, draft: { ...draft, lesson: drafted }, conflict },
  }
}

/** Null where this program can't read it: it stays in the browser, and does not keep the lesson from being opened. */
function lessonOf(draft: Draft): Lesson | null {
  try {
    return readLesson(draft.lesson)
  } catch (error) {
    console.error(error)
    return null
  }
}

/** Whether all of a draft has been stored, though no answer came. */
const isDone = (drafted: Lesson, stored: StoredLesson): boolean =>
  JSON.stringify(drafted) === JSON.stringify(tell(stored.lesson))

/** Whether nobody else has saved since: the draft goes on from what is stored, or from its own save that got through. */
const isBasedOn = ({ base, saves }: Draft, { revision, save }: StoredLesson): boolean =>
  revision === base || (save !== null && saves.includes(save))
