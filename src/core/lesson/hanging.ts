import type { Lesson, Picture, Step } from './document'

/** What something hangs on. */
export type HungOn = { kind: 'step'; step: string } | { kind: 'mark'; mark: string } | { kind: 'sound'; sound: string }

/** Something that begins, and perhaps ends, with something else. */
export interface Hanging {
  kind: 'sound' | 'nudge' | 'bed' | 'picture' | 'layer' | 'pin'
  id: string
  /** In which it stands; null for what is heard. */
  step: string | null
  begins: HungOn
  /** Null: it has no end of its own. */
  ends: HungOn | null
}

const onMark = (mark: string): HungOn => ({ kind: 'mark', mark })

/** All that hangs in a lesson: whoever asks what hangs where asks here, so that no kind of thing is left out anywhere. */
export const hangingIn = ({ steps, sounds, nudges, bedCues }: Hung): Hanging[] => [
  ...sounds.map(({ id, anchor }): Hanging => ({ kind: 'sound', id, step: null, begins: anchor, ends: null })),
  ...nudges.map(({ id, anchor }): Hanging => ({ kind: 'nudge', id, step: null, begins: anchor, ends: null })),
  ...bedCues.map(({ id, begins, last }): Hanging => {
    return { kind: 'bed', id, step: null, begins, ends: last === null ? null : { kind: 'step', step: last } }
  }),
  ...steps.flatMap(hangingInStep),
]

type Hung = Pick<Lesson, 'steps' | 'sounds' | 'nudges' | 'bedCues'>
type Shown = Pick<Step, 'id' | 'picture' | 'more' | 'layers'>

/** Further pictures of a step, pins of its recordings, and what lies over its pictures. */
export const hangingInStep = ({ id: step, picture, more, layers }: Shown): Hanging[] => [
  ...pinsOf(picture, step),
  ...more.flatMap((one): Hanging[] => [
    { kind: 'picture', id: one.id, step, begins: onMark(one.mark), ends: null },
    ...pinsOf(one.picture, step),
  ]),
  ...layers.map(({ id, from, to }): Hanging => {
    const begins: HungOn = from === null ? { kind: 'step', step } : onMark(from)
    return { kind: 'layer', id, step, begins, ends: to === null ? null : onMark(to) }
  }),
]

const pinsOf = (picture: Picture, step: string): Hanging[] =>
  picture.kind === 'recording'
    ? picture.pins.map(({ id, mark }) => ({ kind: 'pin', id, step, begins: onMark(mark), ends: null }))
    : []

/** The marks among what things hang on. */
export const marksOf = (things: readonly Hanging[]): string[] =>
  things.flatMap(({ begins, ends }) => [begins, ends]).flatMap((on) => (on?.kind === 'mark' ? [on.mark] : []))
