import type { BedCue, Lesson, Nudge, SoundCue } from './document'
import { marksInUse } from './marks'
import { mediaOf } from './usedMedia'

/** Some steps of a lesson, and all that hangs on them. */
export type LessonPart = Pick<Lesson, 'steps' | 'takes' | 'marks' | 'bedCues' | 'sounds' | 'shelf'>

/** Steps with their takes, the music that begins in them, the sounds on their words, and what the shelf says of all that. */
export function partOfLesson(lesson: Lesson, ids: ReadonlySet<string>): LessonPart {
  const steps = lesson.steps.filter(({ id }) => ids.has(id))
  const takes = lesson.takes.filter(({ step }) => ids.has(step))
  const marksThere = marksWithin(lesson, ids)
  const bedCues = lesson.bedCues.filter(({ begins }) =>
    begins.kind === 'step' ? ids.has(begins.step) : marksThere.has(begins.mark),
  )
  const sounds = soundsWithin(lesson, ids)
  const part = { ...lesson, steps, takes, bedCues, sounds, nudges: [], shelf: [], others: {} }
  const [hung, needed] = [marksInUse(part), mediaOf(part)]
  const marks = lesson.marks.filter(({ id }) => hung.has(id))
  const shelf = lesson.shelf.filter(({ media }) => needed.has(media))
  return { steps, takes, marks, bedCues, sounds, shelf }
}

const marksWithin = ({ marks }: Lesson, steps: ReadonlySet<string>): Set<string> =>
  new Set(marks.filter(({ step }) => steps.has(step)).map(({ id }) => id))

/** Sounds that hang on these steps or their words, and those that hang on another sound that does. */
export function soundsWithin(lesson: Lesson, steps: ReadonlySet<string>): SoundCue[] {
  const [marks, found] = [marksWithin(lesson, steps), new Set<string>()]
  const hangs = ({ anchor }: SoundCue) =>
    anchor.kind === 'step'
      ? steps.has(anchor.step)
      : anchor.kind === 'mark'
        ? marks.has(anchor.mark)
        : found.has(anchor.sound)
  for (let before = -1; before < found.size;) {
    before = found.size
    for (const sound of lesson.sounds) if (hangs(sound)) found.add(sound.id)
  }
  return lesson.sounds.filter(({ id }) => found.has(id))
}

/** Gain points on these steps or their words. */
export function nudgesWithin(lesson: Lesson, steps: ReadonlySet<string>): Nudge[] {
  const marks = marksWithin(lesson, steps)
  return lesson.nudges.filter(({ anchor }) =>
    anchor.kind === 'step' ? steps.has(anchor.step) : marks.has(anchor.mark),
  )
}

/** What ids become in a copy. */
export interface Renaming {
  step(id: string): string
  mark(id: string): string
  sound(id: string): string
}

/** The same sounds once more, on the copies of what they hang on. */
export const copyOfSounds = (sounds: readonly SoundCue[], named: Renaming): SoundCue[] =>
  sounds.map((cue) => ({ ...cue, id: named.sound(cue.id), anchor: anchorOfCopy(cue.anchor, named) }))

/** The same gain points once more, on the copies of what they hang on. */
export const copyOfNudges = (nudges: readonly Nudge[], idOf: (nudge: Nudge) => string, named: Naming): Nudge[] =>
  nudges.map((nudge) => ({ ...nudge, id: idOf(nudge), anchor: placeInCopy(nudge.anchor, named) }))

/** The same piece of music once more, from and to the copies of its steps. */
export const copyOfBed = (cue: BedCue, id: string, named: Naming): BedCue => ({
  ...cue,
  id,
  begins: placeInCopy(cue.begins, named),
  last: cue.last && named.step(cue.last),
})

type Naming = Pick<Renaming, 'step' | 'mark'>

const anchorOfCopy = (anchor: SoundCue['anchor'], named: Renaming): SoundCue['anchor'] =>
  anchor.kind === 'sound' ? { ...anchor, sound: named.sound(anchor.sound) } : placeInCopy(anchor, named)

const placeInCopy = <A extends { kind: 'step'; step: string } | { kind: 'mark'; mark: string }>(
  place: A,
  named: Naming,
): A =>
  place.kind === 'step' ? { ...place, step: named.step(place.step) } : { ...place, mark: named.mark(place.mark) }
