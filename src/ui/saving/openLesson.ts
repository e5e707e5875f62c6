import type { Lesson } from '@/core/lesson/document'
import { tell } from '@/core/lesson/telling'
import type { MediaInfo } from '@/core/messages/media'
import { savesOfLeftLessons, type SavedBefore } from './autosave'
import { browserDrafts, type Draft, type Drafts } from './drafts'
import { askRevision, askStored, type StoredLesson } from './storedLesson'

/** A lesson to be worked on: as it was left, be that stored or only kept in this browser. */
export interface OpenedLesson {
  lesson: Lesson
  media: MediaInfo[]
  course: { id: string; title: string }
  saved: SavedBefore
}

/** Asks for a lesson as it is stored now, after all that this page has still to save of it. */
export async function openLesson(id: string, drafts: Drafts = browserDrafts): Promise<OpenedLesson> {
  await savesOfLeftLessons(id)
  const draft = await drafts.find(id).catch(() => null)
  const stored = await askStored(id, draft?.saves)
  const { revision, course, media } = stored
  const lesson = tell(stored.lesson)
  // A draft that was stored after all must not stand against what comes later.
  const drafted = draft && (await lessonOf(draft))
  const isStored = draft !== null && drafted !== null && isDone(drafted, stored) && !maySaveArrive(draft, stored)
  if (draft && isStored) await drafts.drop(draft.key).catch(() => {})
  if (!draft || !drafted || isStored)
    return { lesson, media, course, saved: { lesson, revision, draft: null, conflict: null } }
  return {
    lesson: drafted,
    media: [...media, ...draft.media],
    course,
    saved: { ...(await begunWith(id, draft, stored)), draft: { ...draft, lesson: drafted } },
  }
}

/**
 * What a draft goes on from: its own save that got through, else what it is based on. Where somebody else has saved since,
 * saving finds out what has to be put together.
 */
async function begunWith(id: string, { base }: Draft, stored: StoredLesson): Promise<Omit<SavedBefore, 'draft'>> {
  const revision = stored.done ?? base
  const begun = revision === stored.revision ? stored.lesson : await askRevision(id, revision)
  if (begun) return { lesson: tell(begun), revision, conflict: null }
  // An old version that was thinned out.
  return { lesson: tell(stored.lesson), revision: stored.revision, conflict: { savedAt: stored.savedAt } }
}

/** Null where this program can't read it: it stays in the browser, and does not keep the lesson from being opened. */
async function lessonOf(draft: Draft): Promise<Lesson | null> {
  // Drafts are rarely found, and what reads older formats comes with them.
  const { readLesson } = await import('@/core/lesson/upgrade')
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
