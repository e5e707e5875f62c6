'use client'

import { useSyncExternalStore } from 'react'
import type { Hearing } from '@/workers/protocol'
import { useDesk } from '../lesson/context'

/** What of the mix is heard now, wherever that was chosen. */
export function useHearing(): [Hearing, (next: Hearing) => void] {
  const { player } = useDesk()
  return [useSyncExternalStore(player.subscribe, player.hearing, () => 'all'), player.listenTo]
}
