import type { Lesson, MediaHash, Picture, Step } from './document'

/** Which files a lesson needs. */

/** Its own picture first. */
export const picturesOfStep = ({ picture, more }: Pick<Step, 'picture' | 'more'>): Picture[] => [
  picture,
  ...more.map((one) => one.picture),
]

/** All files a lesson needs in all its languages, each once. */
export function mediaOf(lesson: Lesson): Set<MediaHash> {
  const needed = mediaInUse(lesson)
  for (const item of lesson.shelf) needed.add(item.media)
  for (const { takes } of [lesson, ...Object.values(lesson.others)]) {
    for (const take of takes) {
      needed.add(take.media)
      if (take.room) needed.add(take.room)
    }
  }
  return needed
}

/** The files that are seen or heard in the language it is told in, each once. */
export function mediaInUse(lesson: Lesson): Set<MediaHash> {
  const used = new Set<MediaHash>()
  for (const step of lesson.steps) {
    for (const picture of picturesOfStep(step)) if (picture.kind !== 'card') used.add(picture.media)
    for (const passage of step.passages) used.add(passage.media)
  }
  for (const cue of lesson.bedCues) used.add(cue.media)
  for (const sound of lesson.sounds) used.add(sound.media)
  return used
}
