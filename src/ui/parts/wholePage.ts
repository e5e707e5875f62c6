/**
 * Stands in each page as text and runs by itself there. A page whose scripts could not all be had (the connection was lost) is
 * shown and does nothing: it is loaded anew as soon as the server answers, unless it has come to life in the meantime.
 */
export const WHOLE_PAGE_SCRIPT = `(${loadAgainUntilWhole.toString()})()`

function loadAgainUntilWhole(): void {
  const TIMES = 'yarn-step-page-loaded-again'
  const MOST_TIMES = 5
  /** The bundler's own second try comes within 0.6 s. */
  const PAUSE = 1500 // ms
  addEventListener('load', () => {
    const isThere = new Map<string, boolean>()
    for (const { name, decodedBodySize } of performance.getEntriesByType('resource') as PerformanceResourceTiming[])
      if (/\/_next\/static\/.*\.js$/.test(name)) isThere.set(name, decodedBodySize > 0)
    const missing = [...isThere.keys()].find((name) => !isThere.get(name))
    if (missing === undefined) return sessionStorage.removeItem(TIMES)
    const times = Number(sessionStorage.getItem(TIMES))
    if (times >= MOST_TIMES) return
    const loadAgain = () => {
      if (document.documentElement.dataset.isAlive) return
      sessionStorage.setItem(TIMES, String(times + 1))
      location.reload()
    }
    const askAgain = () => setTimeout(() => fetch(missing).then(loadAgain, askAgain), PAUSE)
    askAgain()
  })
}
