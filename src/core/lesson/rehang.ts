import type { Seconds } from '@/core/units'
import type { Lesson } from './document'

/** What hangs on a step that is parted or goes: it hangs on something else from now on, at the same moment of what is said. */

/** Whether a sound or a gain point hangs on a step. */
export const isHungOn = ({ sounds, nudges }: Lesson, step: string): boolean =>
  [...sounds, ...nudges].some(({ anchor }) => anchor.kind === 'step' && anchor.step === step)

/** Sounds and gain points that hang on a step hang on something else. Changes the lesson. */
export function rehang(
  { sounds, nudges }: Lesson,
  step: string,
  to: (
    offset: Seconds,
  ) => { kind: 'step'; step: string; offset: Seconds } | { kind: 'mark'; mark: string; offset: Seconds },
): void {
  for (const one of [...sounds, ...nudges])
    if (one.anchor.kind === 'step' && one.anchor.step === step) one.anchor = to(one.anchor.offset)
}

/** Of a step that is parted `at` seconds after its beginning: what comes later hangs on the other part, `shift` seconds into which it goes on. */
export function rehangLater(lesson: Lesson, step: string, at: Seconds, later: string, shift: Seconds): void {
  rehang(lesson, step, (offset) =>
    offset >= at ? { kind: 'step', step: later, offset: offset - at + shift } : { kind: 'step', step, offset },
  )
}
