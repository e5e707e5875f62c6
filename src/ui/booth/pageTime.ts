import type { Seconds } from '@/core/units'

/** Since the page was opened. */
export const pageTime = (): Seconds => performance.now() / 1000

/**
 * Turns the times that a device gives its sound into page times, whatever it counts from. Sound that reaches the page
 * just now was heard now at the latest, so the least delay seen so far is taken for none.
 */
export function deviceClock(): (at: Seconds) => Seconds {
  let least = Infinity
  return (at) => {
    least = Math.min(least, pageTime() - at)
    return at + least
  }
}
