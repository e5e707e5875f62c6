import type { CaptionCorrection, Lesson } from './document'

/** What can be done to captions. */
export type CaptionEdit = {
  name: 'correctCaptions'
  /** By their words; what was corrected of the same words before is replaced. */
  put: readonly CaptionCorrection[]
  /** Words of which the captions are as they are made. */
  remove: readonly string[]
}

export function changeCaptions(lesson: Lesson, { put, remove }: CaptionEdit): void {
  const gone = new Set([...remove, ...put.map(({ words }) => words)])
  lesson.captionCorrections = [...lesson.captionCorrections.filter(({ words }) => !gone.has(words)), ...put]
}
