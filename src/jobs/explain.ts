import type { JobError } from '@/core/messages/job'
import { UserError } from '@/core/userError'
import { isDiskFull } from '@/media/store/disk'
import { say } from '@/messages/say'

/** Why work could not be done, as its author reads it. */
export interface Reason {
  sentence: string
  code: JobError
}

/** Work that failed elsewhere, and was explained there. */
export class WorkFailed extends UserError {
  readonly code: JobError

  constructor({ sentence, code }: Reason) {
    super(sentence)
    this.code = code
  }
}

/** What is no fault of whoever asked goes to the log in full. */
export function explain(error: unknown): Reason {
  if (error instanceof WorkFailed) return { sentence: error.message, code: error.code }
  if (error instanceof UserError) return { sentence: error.message, code: 'refused' }
  console.error(error)
  return isDiskFull(error)
    ? { sentence: say('server.diskFull'), code: 'disk-full' }
    : { sentence: say('server.programFault'), code: 'fault' }
}
