/** Whether this page has brought in files: what shows them on their way comes then. */

let areExpected = false
const listeners = new Set<() => void>()

export function expectFiles(): void {
  areExpected = true
  listeners.forEach((listener) => listener())
}

export const areFilesExpected = (): boolean => areExpected

export function subscribeToExpected(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
