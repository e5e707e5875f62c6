/** Locks that go with their page, however it ends: what a page holds is its own; what nobody holds was left behind. */

export function holdPageLock(name: string): () => void {
  let release = () => {}
  void navigator.locks.request(name, () => new Promise<void>((resolve) => (release = resolve)))
  return () => release()
}

export const isPageGone = (name: string): Promise<boolean> =>
  navigator.locks.request(name, { ifAvailable: true }, async (lock) => lock !== null)
