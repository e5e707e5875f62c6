/**
 * An error the user can cause and mend. Its message is one sentence or two in plain words, shown as it is:
 * what is wrong and what to do. Everything else that is thrown is a fault of ours and fails loudly.
 */
export class UserError extends Error {
  override name = 'UserError'
}

/** What was asked for is not there (any more). */
export class NotThere extends UserError {}

/** Somebody else has changed meanwhile what was to be changed. */
export class Overtaken extends UserError {}

interface Cause {
  name?: string
  message?: string
  code?: string
  cause?: unknown
}

/** An error and what led to it, the outermost first; whatever it is that was thrown. */
export function causesOf(error: unknown): Cause[] {
  const causes: Cause[] = []
  for (let one = error; typeof one === 'object' && one !== null && causes.length < 10; one = (one as Cause).cause)
    causes.push(one)
  return causes
}
