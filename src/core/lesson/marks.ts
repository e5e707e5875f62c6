import type { Seconds } from '@/core/units'
import type { Lesson, Nudge, Picture, Place, SoundCue, Step } from './document'
import { hangingIn, hangingInStep, marksOf } from './hanging'

/** Marks among the words of a lesson, and what hangs on them. */

/**
 * A mark stands at its word's beginning, and is heard where what comes so soon after it is: a cut may lie a little after the
 * beginning of a word that goes, or of the one after it.
 */
const INTO_WORD: Seconds = 0.06

/** Whether a part of a take has what a mark stands at. */
export function hears(part: { media: string; from: Seconds; to: Seconds }, { media, at }: Place): boolean {
  const inside = part.to - part.from > 2 * INTO_WORD ? at + INTO_WORD : at
  return part.media === media && inside >= part.from && inside < part.to
}

/** The step in which a place of a take is heard: rather `step`, otherwise the first one. */
export function stepHearing(steps: readonly Step[], place: Place, step: string): Step | null {
  const says = ({ passages }: Step) => passages.some((passage) => hears(passage, place))
  const own = steps.find(({ id }) => id === step)
  return own && says(own) ? own : (steps.find(says) ?? null)
}

/** The marks on which something hangs, by id. */
export const marksInUse = (lesson: Lesson): Set<string> => new Set(marksOf(hangingIn(lesson)))

/** Those on which sounds, or points of the gain line, hang. */
export const marksOfSounds = (hung: readonly Pick<SoundCue | Nudge, 'anchor'>[]): string[] =>
  hung.flatMap(({ anchor }) => (anchor.kind === 'mark' ? [anchor.mark] : []))

type Shown = Pick<Step, 'id' | 'picture' | 'more' | 'layers'>

/** Those on which its further pictures, its pins and what lies over its pictures hang. */
export const marksOfStep = (step: Shown): string[] => marksOf(hangingInStep(step))

/** A step whose pictures hang on other marks. */
export function withMarks<T extends Shown>(step: T, markFor: (mark: string) => string): T {
  const hung = (picture: Picture): Picture =>
    picture.kind === 'recording'
      ? { ...picture, pins: picture.pins.map((pin) => ({ ...pin, mark: markFor(pin.mark) })) }
      : picture
  const more = step.more.map((one) => ({ ...one, picture: hung(one.picture), mark: markFor(one.mark) }))
  const orNull = (mark: string | null) => mark && markFor(mark)
  const layers = step.layers.map((one) => ({ ...one, from: orNull(one.from), to: orNull(one.to) }))
  return { ...step, picture: hung(step.picture), more, layers }
}
