/** Work that nobody waits for: done once the screen shows what has changed, however often it is asked for until then. */
export function afterPaint(work: () => void): () => void {
  let isAsked = false
  const run = () => {
    isAsked = false
    work()
  }
  return () => {
    if (isAsked) return
    isAsked = true
    // A page in the background draws nothing.
    if (document.hidden) setTimeout(run)
    else requestAnimationFrame(() => afterFrame(run))
  }
}

/** A message comes after the frame in which it is sent has been drawn. */
function afterFrame(run: () => void): void {
  const { port1, port2 } = new MessageChannel()
  port1.onmessage = () => {
    port1.close()
    run()
  }
  port2.postMessage(null)
}
