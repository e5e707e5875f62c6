import type { Trouble } from './derived'
import type { LessonStore } from './lessonStore'

/** Forgets troubles of one kind with what nobody wants any more. */
export function keepTroubles(store: LessonStore, kind: string, wanted: ReadonlySet<string>): void {
  for (const key of store.getState().troubles.keys())
    if (key.startsWith(`${kind} `) && !wanted.has(key.slice(kind.length + 1))) setTrouble(store, key, null)
}

/** Notes a trouble, or that there is none any more, under a key of its own. */
export function setTrouble(store: LessonStore, key: string, trouble: Trouble | null): void {
  const { troubles } = store.getState()
  if (!trouble && !troubles.has(key)) return
  const next = new Map(troubles)
  if (trouble) next.set(key, trouble)
  else next.delete(key)
  store.setState({ troubles: next })
}
