/** Locks that go with their page, however it ends: what a page holds is its own; what nobody holds was left behind. */

export function holdPageLock(name: string): () => void {
  let release = () => {}
  void navigator.locks.request(name, () => new Promise<void>((resolve) => (release = resolve)))
  return () => release()
}

/** Whether nobody holds the lock, or lets it go within `wait` ms: a page that was left takes a moment to be gone. */
export async function isPageGone(name: string, wait = 0): Promise<boolean> {
  const end = Date.now() + wait
  for (;;) {
    if (await navigator.locks.request(name, { ifAvailable: true }, async (lock) => lock !== null)) return true
    if (Date.now() >= end) return false
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}
