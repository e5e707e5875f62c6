'use client'

import type { Loose } from '@/core/lesson/timeline'
import { useTimeline } from '../lesson/context'
import { onDemand } from '../parts/onDemand'

const LooseNotices = onDemand(() => import('./LooseNotices').then((part) => part.LooseNotices))

/** What has lost the words it hung on: it is kept, and asks where it belongs. */
export function LooseThings({ which }: { which: (loose: Loose) => boolean }) {
  const loose = useTimeline().loose.filter(which)
  return loose.length > 0 && <LooseNotices loose={loose} />
}
