import { parentPort } from 'node:worker_threads'
import { explain } from './explain'
import type { Answer, Order } from './threads'
import { WORK } from './work'

/** A thread in which work is done, one piece after the other (see threads.ts). */

let running: AbortController | null = null

parentPort!.on('message', (order: Order) => {
  if ('abort' in order) running?.abort()
  else void work(order)
})

async function work({ name, input }: Extract<Order, { name: string }>): Promise<void> {
  running = new AbortController()
  const { signal } = running
  const say = (answer: Answer) => parentPort!.postMessage(answer)
  try {
    const perform = WORK[name] as (input: unknown, options: object) => Promise<unknown>
    say({ done: await perform(input, { signal, onProgress: (progress: number) => say({ progress }) }) })
  } catch (error) {
    say({ failed: signal.aborted ? { sentence: 'It was broken off.', code: 'fault' } : explain(error) })
  }
}
