import type { Edit } from '@/core/lesson/edits'
import type { MediaInfo } from '@/core/messages/media'
import type { LessonState } from '../lesson/lessonStore'
import { asSteps } from '../lesson/useShelfActions'

/** Files that were brought in together, in their order; they arrive in any. */
interface Batch {
  keys: readonly string[]
  /** The steps that were selected when they were dropped: they come after these. */
  after: readonly string[]
  placed: Map<string, readonly string[]>
}

const batches = new Map<string, Batch>()

export function expectInOrder(keys: readonly string[], after: readonly string[]): void {
  const batch = { keys, after, placed: new Map() }
  for (const key of keys) batches.set(key, batch)
}

/** Steps for the pictures of a file, between those of the files before and after it. */
export function placeInOrder(state: LessonState, key: string, media: MediaInfo): Edit[] {
  const batch = batches.get(key)
  const { steps } = state.history.lesson
  const index = batch?.keys.indexOf(key) ?? -1
  const placedOf = (keys: readonly string[]) => keys.flatMap((one) => batch?.placed.get(one) ?? [])
  const earlier = placedOf(batch?.keys.slice(0, index) ?? [])
  const later = placedOf(batch?.keys.slice(index + 1) ?? [])
  const next = steps.find(({ id }) => later.includes(id))
  const selected = steps.some(({ id }) => earlier.includes(id)) ? earlier : (batch?.after ?? state.selected)
  const edits = asSteps({ ...state, selected }, [media])
  return edits.map((edit) => {
    if (edit.name !== 'addSteps') return edit
    batch?.placed.set(
      key,
      edit.steps.map(({ id }) => id),
    )
    return earlier.length === 0 && next ? { ...edit, before: next.id } : edit
  })
}
