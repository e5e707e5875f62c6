import { parentPort } from 'node:worker_threads'
import { speaking } from '@/messages/onServer'
import { say } from '@/messages/say'
import { explain } from './explain'
import type { Answer, Order } from './threads'
import { WORK } from './work'

/** A thread in which work is done, one piece after the other (see threads.ts). */

let running: AbortController | null = null

parentPort!.on('message', (order: Order) => {
  if ('abort' in order) running?.abort()
  else if ('areYouThere' in order) parentPort!.postMessage({ iAmHere: true } satisfies Answer)
  else void speaking(order.language, () => work(order))
})

async function work({ name, input }: Extract<Order, { name: string }>): Promise<void> {
  running = new AbortController()
  const { signal } = running
  const answer = (one: Answer) => parentPort!.postMessage(one)
  try {
    const perform = WORK[name] as (input: unknown, options: object) => Promise<unknown>
    answer({ done: await perform(input, { signal, onProgress: (progress: number) => answer({ progress }) }) })
  } catch (error) {
    answer({ failed: signal.aborted ? { sentence: say('server.brokenOff'), code: 'fault' } : explain(error) })
  }
}
