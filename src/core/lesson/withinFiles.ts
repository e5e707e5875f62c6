import { clamp, type Seconds } from '@/core/units'
import type { Lesson, MediaHash, Picture, Step } from './document'
import { picturesOfStep } from './usedMedia'

/** Length of a file; undefined where it is not known. */
export type LengthOf = (media: MediaHash) => Seconds | null | undefined

/** Nothing shorter is a part of a file. */
const LEAST: Seconds = 0.01

interface Part {
  media: MediaHash
  from: Seconds
  to: Seconds
}

/**
 * The lesson with every part of a file that it uses inside that file, and none that ends before it begins; the very same
 * lesson where all is well. Files of unknown length are taken as long as they are said to be.
 */
export function withinFiles(lesson: Lesson, lengthOf: LengthOf): Lesson {
  const inside = <T extends Part>(part: T): T => keep(part, partWithin(part, lengthOf(part.media)) as Partial<T>)
  const parts = {
    steps: each(lesson.steps, (step) => stepWithin(step, inside)),
    takes: each(lesson.takes, inside),
    sounds: each(lesson.sounds, inside),
    bedCues: each(lesson.bedCues, (cue) => {
      const length = lengthOf(cue.media) ?? Infinity
      const { from, to } = partWithin({ media: cue.media, from: cue.from, to: cue.to ?? length }, length)
      return keep(cue, { from, to: cue.to === null || to >= length ? null : to })
    }),
  }
  const isSame = (Object.keys(parts) as (keyof typeof parts)[]).every((key) => parts[key] === lesson[key])
  return isSame ? lesson : { ...lesson, ...parts }
}

function stepWithin(step: Step, inside: <T extends Part>(part: T) => T): Step {
  const passages = each(step.passages, inside)
  const pictureWithin = (picture: Picture): Picture => (picture.kind === 'recording' ? inside(picture) : picture)
  if (!picturesOfStep(step).some(({ kind }) => kind === 'recording')) return keep(step, { passages })
  const more = each(step.more, (one) => keep(one, { picture: pictureWithin(one.picture) }))
  return keep(step, { passages, picture: pictureWithin(step.picture), more })
}

function partWithin({ from, to }: Part, length: Seconds | null | undefined): { from: Seconds; to: Seconds } {
  const whole = length ?? Infinity
  const begins = clamp(from, 0, Math.max(0, whole - LEAST))
  // What ends before it begins was meant to go on.
  const ends = to - from < LEAST ? Math.max(begins + LEAST, Math.min(whole, to)) : Math.min(whole, to)
  return { from: begins, to: ends }
}

/** The item with these fields; the item itself where it has them already. */
function keep<T extends object>(item: T, fields: Partial<T>): T {
  const isSame = (Object.keys(fields) as (keyof T)[]).every((key) => item[key] === fields[key])
  return isSame ? item : { ...item, ...fields }
}

function each<T>(list: T[], change: (item: T) => T): T[] {
  const changed = list.map(change)
  return changed.every((item, i) => item === list[i]) ? list : changed
}
