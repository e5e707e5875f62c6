import { nanoid } from 'nanoid'
import type { LengthRule } from '@/core/lesson/document'
import { newStep } from '@/core/lesson/newParts'
import { say } from '@/messages/say'
import { timelineOf } from '../../lesson/lessonStore'
import { breakAtCaret, breakAtTime } from '../../words/caret'
import type { SheetActions } from './actions'
import type { ActionContext } from './context'

/** What can be done with steps. */
export function stepActions({ state, player, tell, go, chosen }: ActionContext) {
  const moveSelected = (by: 1 | -1) => {
    const steps = chosen()
    const all = state().history.lesson.steps.map(({ id }) => id)
    if (steps.length === 0) return
    const edge = by < 0 ? all.indexOf(steps[0]!) - 1 : all.indexOf(steps.at(-1)!) + 2
    if (edge < 0 || edge > all.length) return
    state().edit({ name: 'moveSteps', steps, before: all[edge] ?? null })
  }
  const setLength = (rule: LengthRule) => state().edit({ name: 'setLengthOf', steps: chosen(), length: rule })

  return {
    breakHere: () => {
      const edit = breakAtCaret(state())
      if (typeof edit === 'string') return tell(edit)
      if (!state().edit(edit)) return
      const { lesson } = state().history
      const next = lesson.steps[lesson.steps.findIndex(({ id }) => id === state().caret?.step) + 1]
      if (next) go({ step: next.id, word: 0 })
    },
    breakAtPlayhead: () => {
      const edit = breakAtTime(state(), player.position())
      if (typeof edit === 'string') return tell(edit)
      state().edit(edit)
    },
    moveUp: () => moveSelected(-1),
    moveDown: () => moveSelected(1),
    duplicate: () => {
      const { lesson } = state().history
      const copies = chosen().map((of) => ({
        of,
        id: nanoid(10),
        passages: lesson.steps.find(({ id }) => id === of)!.passages.map(() => nanoid(10)),
      }))
      if (copies.length > 0 && state().edit({ name: 'duplicateSteps', copies }))
        state().select(
          copies.map(({ id }) => id),
          { step: copies[0]!.id, word: 0 },
        )
    },
    addCard: () => {
      const { edit, select, caret, history } = state()
      const step = newStep(nanoid(10), say('actions.newCard'), { kind: 'card', lines: [say('actions.newCard')] })
      const at = history.lesson.steps.findIndex(({ id }) => id === caret?.step)
      if (edit({ name: 'addSteps', before: history.lesson.steps[at + 1]?.id ?? null, steps: [step] }))
        select([step.id], { step: step.id, word: 0 })
    },
    undo: () => state().undo(),
    redo: () => state().redo(),
    lengthVoice: () => setLength({ kind: 'voice', atLeast: 1 }),
    lengthUntilNext: () => setLength({ kind: 'until-next', atLeast: 1 }),
    lengthFixed: () => {
      const spans = timelineOf(state().history.lesson).steps.filter(({ step }) => chosen().includes(step.id))
      state().edit(
        ...spans.map(({ step, start, end }) => ({
          name: 'setLength' as const,
          step: step.id,
          length: { kind: 'fixed' as const, length: Math.round((end - start) * 100) / 100 },
        })),
      )
    },
  } satisfies Partial<SheetActions>
}
