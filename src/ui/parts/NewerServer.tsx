'use client'

import { useSyncExternalStore } from 'react'
import { isServerNewer, subscribeToNewer } from '../newerServer'
import { onDemand } from './onDemand'

const Notice = onDemand(() => import('./NewerServerNotice').then((part) => part.NewerServerNotice))

/** Says once that the page is older than its server. */
export function NewerServer() {
  return useSyncExternalStore(subscribeToNewer, isServerNewer, () => false) ? <Notice /> : null
}
