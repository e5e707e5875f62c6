'use client'

import { onDemand } from '../parts/onDemand'
import { useSaveState } from '../lesson/context'

const ConflictChoice = onDemand(() => import('./ConflictChoice').then((part) => part.ConflictChoice))

/** Shown when another window changed the very things that were changed here. */
export function ConflictNotice() {
  const save = useSaveState()
  return save.state === 'conflict' ? <ConflictChoice save={save} /> : null
}
