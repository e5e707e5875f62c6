import { UserError } from '@/core/userError'

const OFTEN = 300 // ms

/** Passes progress on a few times a second at most, one report after the other. */
export function throttled(report: (share: number) => Promise<void>): (share: number) => void {
  let last = 0
  let running = false
  return (share) => {
    const now = Date.now()
    if (running || now - last < OFTEN) return
    last = now
    running = true
    report(share)
      .catch((error: unknown) => console.error(error))
      .finally(() => (running = false))
  }
}

/** The sentence an author reads. What is no fault of theirs goes to the log in full. */
export function explain(error: unknown): string {
  if (error instanceof UserError) return error.message
  console.error(error)
  return 'Something went wrong inside the program, and it was noted in the log. Try it again.'
}
