import type { Lesson } from '@/core/lesson/document'
import { layoutLesson } from '@/core/lesson/layout'
import type { Seconds } from '@/core/units'

const HOUR: Seconds = 3600

/** A lesson said again and again until it lasts an hour, without what hangs on single words. */
export function hourLong(short: Lesson): Lesson {
  const said = short.steps.map((step) => ({ ...step, tail: 0.6, more: [] }))
  const rounds = Math.ceil(HOUR / layoutLesson({ ...short, steps: said }).length)
  const steps = Array.from({ length: rounds }, (_, round) =>
    said.map((step) => ({
      ...step,
      id: `${round}-${step.id}`,
      passages: step.passages.map((passage) => ({ ...passage, id: `${round}-${passage.id}` })),
    })),
  ).flat()
  const bedCues = short.bedCues
    .slice(0, 1)
    .map((cue) => ({ ...cue, begins: { kind: 'step' as const, step: steps[0]!.id }, last: null }))
  return { ...short, title: 'An hour', steps, bedCues, takes: [], marks: [], sounds: [], nudges: [] }
}
