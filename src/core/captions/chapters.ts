import type { Timeline } from '@/core/lesson/timeline'
import type { Seconds } from '@/core/units'

export interface Chapter {
  title: string
  start: Seconds
  end: Seconds
}

/** Shorter ones can't be chosen in a player; they belong to the one before. */
const SHORTEST: Seconds = 5

/**
 * A chapter a step; steps that go on under the same title, and very short ones, are parts of the chapter before. What an author
 * says of a step goes before that.
 */
export function chaptersOf({ steps }: Timeline): Chapter[] {
  const chapters: Chapter[] = []
  for (const { step, start, end } of steps) {
    const last = chapters.at(-1)
    const title = step.chapter?.title.trim() || step.title.trim()
    const goesOn = title === '' || title === last?.title || end - start < SHORTEST
    if (last && (step.chapter ? !step.chapter.begins : goesOn)) last.end = end
    else chapters.push({ title: title || `${chapters.length + 1}`, start, end })
  }
  return chapters
}
