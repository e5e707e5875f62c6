import { UserError } from '@/core/userError'
import { DISK_FULL, isDiskFull } from '@/media/store/disk'

/** The sentence an author reads. What is no fault of theirs goes to the log in full. */
export function explain(error: unknown): string {
  if (error instanceof UserError) return error.message
  if (isDiskFull(error)) {
    console.error(error)
    return DISK_FULL
  }
  console.error(error)
  return 'Something went wrong inside the program, and it was noted in the log. Try it again.'
}
