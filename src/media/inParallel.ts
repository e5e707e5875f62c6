import { availableParallelism } from 'node:os'

const MOST = 4

/** Does something with each item, as many at a time as the machine has processors (at most four). */
export async function inParallel<T>(items: Iterable<T>, work: (item: T) => Promise<void>): Promise<void> {
  // One iterator for all of them: each takes what is next.
  const left = items[Symbol.iterator]()
  const worker = async () => {
    for (let next = left.next(); !next.done; next = left.next()) await work(next.value)
  }
  await Promise.all(Array.from({ length: Math.min(availableParallelism(), MOST) }, worker))
}
