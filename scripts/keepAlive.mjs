/** Keeps a part of the application running: what ends by itself is started again, for ever. */

/** What ends with this code was set wrongly (EX_CONFIG of sysexits.h): starting it again would not help. */
const WRONG_SETTING = 78

const FIRST_WAIT = 500 // ms
const LONGEST_WAIT = 5000
/** What has run so long was well: the next wait is short again. */
const SETTLED = 60_000

/**
 * `start` gives a process with `ended` (a promise) and `output()`; it may fail, and is tried again. `say` tells a person
 * what happens. Returns what stops it for good.
 */
export function keepAlive(name, start, say = console.error) {
  let stopping = false
  let current = null
  let wake = () => {}
  let failed = null
  const pause = (ms) =>
    new Promise((resolve) => {
      wake = resolve
      setTimeout(resolve, ms)
    })
  const ended = (async () => {
    let wait = FIRST_WAIT
    while (!stopping) {
      const begun = performance.now()
      try {
        current = await start()
        if (stopping) await current.kill()
        const code = await current.ended
        if (code === WRONG_SETTING && !stopping) {
          failed = new Error(current.output().trim())
          return
        }
      } catch (error) {
        say(`${name} could not be started: ${error.message}`)
        current = null
      }
      if (stopping) return
      if (performance.now() - begun > SETTLED) wait = FIRST_WAIT
      say(`${name} ended by itself and is started again in ${wait / 1000} s.${lastWords(current)}`)
      await pause(wait)
      wait = Math.min(LONGEST_WAIT, wait * 2)
    }
  })()
  return {
    get pid() {
      return current?.pid
    },
    ended,
    output: () => current?.output() ?? '',
    // Between two starts it is as good as running.
    isRunning: () => !stopping && failed === null,
    /** Why it is not started again; null while it is. */
    failure: () => failed,
    async kill(signal) {
      stopping = true
      wake()
      await current?.kill(signal)
      await ended
    },
  }
}

function lastWords(process) {
  const lines = process?.output().trim().split('\n').slice(-6) ?? []
  return lines.some(Boolean) ? ` Its last words:\n  ${lines.join('\n  ')}` : ''
}
