'use client'

import { ViewCrash } from '@/ui/lesson/ViewCrash'

export default function ViewError({ error, reset }: { error: Error; reset: () => void }) {
  return <ViewCrash error={error} onAgain={reset} />
}
