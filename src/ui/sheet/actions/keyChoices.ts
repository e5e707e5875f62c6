import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { ACTIONS, type Action, type ActionId } from './actions'

/** Keys that somebody has chosen instead of the usual ones: kept in this browser, and no part of any document. */
export type KeyChoices = Partial<Record<ActionId, readonly string[]>>

interface KeyChoiceState {
  chosen: KeyChoices
  choose(action: ActionId, chord: string): void
  /** All as they are usually. */
  reset(): void
}

export const useKeyChoices = create<KeyChoiceState>()(
  persist(
    (set) => ({
      chosen: {},
      choose: (action, chord) => set(({ chosen }) => ({ chosen: withChoice(chosen, action, chord) })),
      reset: () => set({ chosen: {} }),
    }),
    { name: 'yarn-step-keys' },
  ),
)

export const keysOf = ({ id, keys }: Action, chosen: KeyChoices): readonly string[] => chosen[id as ActionId] ?? keys

/** A chord does one thing: who had it before has it no more. */
export function withChoice(chosen: KeyChoices, action: ActionId, chord: string): KeyChoices {
  const next: KeyChoices = { ...chosen, [action]: [chord] }
  for (const other of ACTIONS) {
    const keys = keysOf(other, chosen)
    if (other.id !== action && keys.includes(chord)) next[other.id] = keys.filter((key) => key !== chord)
  }
  return next
}

/** The key that is shown beside an action; none where it has none. */
export function useShownKey(): (action: Action) => string | undefined {
  const chosen = useKeyChoices((state) => state.chosen)
  return (action) => keysOf(action, chosen)[0]
}
