import type { JobError } from '@/core/messages/job'
import { isDatabaseAway } from '@/db/client'
import { explain } from './explain'

const OFTEN = 300 // ms

/** Passes progress on a few times a second at most, one report after the other. */
export function throttled(report: (share: number) => Promise<void>): (share: number) => void {
  let last = -Infinity
  let running = false
  return (share) => {
    // Not by the clock on the wall, which may be set back.
    const now = performance.now()
    if (running || now - last < OFTEN) return
    last = now
    running = true
    report(share)
      .catch((error: unknown) => console.error(error))
      .finally(() => (running = false))
  }
}

/**
 * Ends a job that failed with a sentence for its author. Where the database is away there is nobody to tell: the job stays
 * as it is and is done again.
 */
export async function endWithError(
  error: unknown,
  tell: (sentence: string, code: JobError) => Promise<void>,
): Promise<void> {
  if (isDatabaseAway(error)) throw error
  const { sentence, code } = explain(error)
  await tell(sentence, code)
}
