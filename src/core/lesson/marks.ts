import type { Lesson, Mark, Picture, Place, Step } from './document'

/** Marks among the words of a lesson, and what hangs on them. */

/** The step in which a place of a take is heard: rather `step`, otherwise the first one. */
export function stepHearing(steps: readonly Step[], { media, at }: Place, step: string): Step | null {
  const hears = ({ passages }: Step) =>
    passages.some((passage) => passage.media === media && at >= passage.from && at < passage.to)
  const own = steps.find(({ id }) => id === step)
  return own && hears(own) ? own : (steps.find(hears) ?? null)
}

/** The marks on which something hangs, by id. */
export function marksInUse({ steps, sounds, nudges, bedCues }: Lesson): Set<string> {
  const used = new Set<string>()
  for (const { anchor } of [...sounds, ...nudges]) if (anchor.kind === 'mark') used.add(anchor.mark)
  for (const { begins } of bedCues) if (begins.kind === 'mark') used.add(begins.mark)
  for (const step of steps) for (const mark of marksOfStep(step)) used.add(mark)
  return used
}

/** Those on which its further pictures and its pins hang. */
export function marksOfStep({ picture, more }: Pick<Step, 'picture' | 'more'>): string[] {
  return [...pinned(picture), ...more.flatMap((one) => [one.mark, ...pinned(one.picture)])]
}

const pinned = (picture: Picture): string[] =>
  picture.kind === 'recording' ? picture.pins.map(({ mark }) => mark) : []

/** A step whose pictures hang on other marks. */
export function withMarks<T extends Pick<Step, 'picture' | 'more'>>(step: T, markFor: (mark: string) => string): T {
  const hung = (picture: Picture): Picture =>
    picture.kind === 'recording'
      ? { ...picture, pins: picture.pins.map((pin) => ({ ...pin, mark: markFor(pin.mark) })) }
      : picture
  const more = step.more.map((one) => ({ ...one, picture: hung(one.picture), mark: markFor(one.mark) }))
  return { ...step, picture: hung(step.picture), more }
}

export const markOf = ({ marks }: Pick<Lesson, 'marks'>, id: string): Mark | undefined =>
  marks.find((mark) => mark.id === id)
