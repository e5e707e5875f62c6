import { nanoid } from 'nanoid'
import type { Step } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import { newLayer, type LayerName } from '@/core/lesson/layers'
import type { LessonStore } from '../lesson/lessonStore'
import { markAtCaret } from '../words/anchors'
import { selectionOf } from '../words/caret'

/**
 * Puts something over the picture of a step, and picks it: from the word at the caret on, while the selected words are
 * said, or as long as the picture.
 */
export function putOver({ store }: { store: Pick<LessonStore, 'getState'> }, step: string, name: LayerName): void {
  const state = store.getState()
  const { caret } = state
  const range = selectionOf(state.history.lesson.steps, caret).get(step)
  const markBefore = (word: number) => (word > 0 ? markAtCaret({ ...state, caret: { step, word } }) : null)
  const first = markBefore(range ? range.from : caret?.step === step ? caret.word : 0)
  const last = range && Number.isFinite(range.to) ? markBefore(range.to) : null
  const layer = newLayer(nanoid(10), name)
  const marks = [first, last].filter((mark) => mark !== null)
  const number = { ...layer, ...(layer.kind === 'pointer' && { number: nextNumber(state.history.lesson.steps, step) }) }
  const edits: Edit[] = [
    ...(marks.length > 0 ? [{ name: 'placeMarks' as const, marks }] : []),
    { name: 'addLayers', step, layers: [{ ...number, from: first?.id ?? null, to: last?.id ?? null }] },
  ]
  if (state.edit(...edits)) state.pick({ kind: 'layer', id: layer.id })
}

/** Numbered spots of a step count on. */
function nextNumber(steps: readonly Step[], step: string): number {
  const layers = steps.find(({ id }) => id === step)?.layers ?? []
  const used = layers.map((one) => (one.kind === 'pointer' && one.shape === 'number' ? one.number : 0))
  return Math.min(99, Math.max(0, ...used) + 1)
}
