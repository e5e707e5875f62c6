/** Whether the server has been renewed since this page was loaded: its parts may not fit together any more. */

/** The build replaces this by its own name. */
const EDITION = process.env.YARN_STEP_EDITION ?? ''

let isNewer = false
const listeners = new Set<() => void>()

/** Tells of an answer by which edition it was made; null where nothing says so. */
export function compareEditions(edition: string | null): void {
  if (!edition || edition === EDITION || isNewer) return
  isNewer = true
  listeners.forEach((listener) => listener())
}

export const isServerNewer = (): boolean => isNewer

export function subscribeToNewer(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
