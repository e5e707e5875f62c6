import { Refusal } from '../api'
import { JobFailed } from '../jobs'

const FIRST_WAIT = 1000 // ms
const LONGEST_WAIT = 30_000

/**
 * Work behind the page: tried again, after longer and longer waits, until it is done, has failed for good, or nobody wants
 * it any more (then null).
 */
export async function keepTrying<T>(work: () => Promise<T>, isWanted: () => boolean): Promise<T | null> {
  for (let wait = FIRST_WAIT; isWanted(); wait = Math.min(LONGEST_WAIT, wait * 2)) {
    try {
      return await work()
    } catch (error) {
      if (error instanceof JobFailed || error instanceof Refusal) throw error
      await new Promise((resolve) => setTimeout(resolve, wait))
    }
  }
  return null
}

/** Does pieces of work in the order they come, so many at a time. */
export function inTurns(most: number) {
  const waiting: (() => Promise<void>)[] = []
  let running = 0
  const next = async () => {
    running++
    for (let work = waiting.shift(); work; work = waiting.shift()) await work()
    running--
  }
  return (work: () => Promise<void>) => {
    waiting.push(work)
    if (running < most) void next()
  }
}
