/** A process whose parent is gone ends too: nobody would start, stop or find it. */
const LOOK_EVERY = 1000 // ms

export function endWithParent(): void {
  const parent = process.ppid
  setInterval(() => {
    if (process.ppid !== parent) process.exit(0)
  }, LOOK_EVERY).unref()
}
