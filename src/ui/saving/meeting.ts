import type { Lesson, LessonDocument } from '@/core/lesson/document'
import { mergeLessons, sharing, type Clash, type Side } from '@/core/lesson/merge'
import { documentOf, tell } from '@/core/lesson/telling'
import type { MediaInfo } from '@/core/messages/media'

/** What was stored from another window since both began with the same lesson. */
export interface Meeting {
  revision: number
  savedAt: string
  media: MediaInfo[]
  /** What is stored, in the language of what both began with. */
  theirs: Lesson
  /** What has to be chosen between a lesson as it is here and as it is there; null where they can't be put together. */
  clashes(mine: Lesson): Clash[] | null
  /** Both put together, in the language of `mine`; where both say otherwise, what was chosen (by the keys of clashes). */
  merge(mine: Lesson, chosen: ReadonlyMap<string, Side>): Lesson | null
}

interface Stored {
  lesson: LessonDocument
  revision: number
  savedAt: string
  media: MediaInfo[]
}

/** Null where the two are not told in one language any more, and nothing can be put together. */
export function meetingOf(base: Lesson, { lesson, revision, savedAt, media }: Stored): Meeting | null {
  const { language } = base
  if (!(language in lesson.narrations)) return null
  const theirs = sharing(tell(lesson, language), base)
  /** Null where the lesson is not told in that language here any more. */
  const merged = (mine: Lesson, choose: (clash: Clash) => Side) =>
    mine.language === language || language in mine.others
      ? mergeLessons({ base, mine: retold(mine, language), theirs }, choose)
      : null
  return {
    revision,
    savedAt,
    media,
    theirs,
    clashes: (mine) => merged(mine, () => 'mine')?.clashes ?? null,
    merge(mine, chosen) {
      const both = merged(mine, ({ key }) => chosen.get(key) ?? 'mine')
      return both && retold(both.lesson, mine.language)
    },
  }
}

const retold = (lesson: Lesson, language: string): Lesson =>
  lesson.language === language ? lesson : tell(documentOf(lesson), language)
