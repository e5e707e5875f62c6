import type { Lesson } from '@/core/lesson/document'
import { tell } from '@/core/lesson/telling'
import { readLesson } from '@/core/lesson/upgrade'
import type { MediaInfo } from '@/core/messages/media'
import { call, Refusal } from '../api'
import { savesOfLeftLessons, type SavedBefore } from './autosave'
import { dropDraft, findDraft, type Draft } from './drafts'
import type { StoredLesson } from './storedLesson'

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
  const { revision, course, media } = stored
  const lesson = tell(stored.lesson)
  // A draft that was stored after all must not stand against what comes later.
  const drafted = draft && lessonOf(draft)
  const isStored = draft !== null && drafted !== null && isDone(drafted, stored) && !maySaveArrive(draft, stored)
  if (draft && isStored) await dropDraft(draft.key).catch(() => {})
  if (!draft || !drafted || isStored)
    return { lesson, media, course, saved: { lesson, revision, draft: null, conflict: null } }
  const saved = isBasedOn(draft, stored) ? { lesson, revision, conflict: null } : await begunWith(id, draft, stored)
  return {
    lesson: drafted,
    media: [...media, ...draft.media],
    course,
    saved: { ...saved, draft: { ...draft, lesson: drafted } },
  }
}

/** What a draft goes on from where somebody else has saved since: saving finds out what has to be put together. */
async function begunWith(id: string, { base }: Draft, stored: StoredLesson): Promise<Omit<SavedBefore, 'draft'>> {
  try {
    const begun = await call<Pick<StoredLesson, 'lesson'>>(`/api/lessons/${id}/revisions/${base}`)
    return { lesson: tell(begun.lesson), revision: base, conflict: null }
  } catch (error) {
    // An old version that was thinned out.
    if (!(error instanceof Refusal)) throw error
    return { lesson: tell(stored.lesson), revision: stored.revision, conflict: { savedAt: stored.savedAt } }
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

/**
 * Whether one of the draft's saves may still be on its way and store what the draft has taken back since: then it is saved
 * once more, after which what comes late is refused.
 */
const maySaveArrive = ({ base, saves }: Draft, { revision }: StoredLesson): boolean =>
  revision === base && saves.length > 0

/** Whether nobody else has saved since: the draft goes on from what is stored, or from its own save that got through. */
const isBasedOn = ({ base, saves }: Draft, { revision, save }: StoredLesson): boolean =>
  revision === base || (save !== null && saves.includes(save))
