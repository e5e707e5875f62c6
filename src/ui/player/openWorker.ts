import type { Endpoint } from 'comlink'
import { LISTENING } from '@/workers/protocol'

const AGAIN_AFTER = 500 // ms

/** A worker as comlink talks to it. */
export interface OpenWorker extends Endpoint {
  terminate(): void
}

/**
 * Opens a worker. What is said to it waits until it says that it listens: its code comes from the server, in several parts,
 * and what reaches it earlier would be lost. Where its code can't be had, it is made again.
 */
export function openWorker(make: () => Worker): OpenWorker {
  const listeners = new Set<(event: MessageEvent) => void>()
  let unsaid: Parameters<Endpoint['postMessage']>[] | null = []
  let again: ReturnType<typeof setTimeout> | undefined
  let worker: Worker

  function open(): void {
    const opened = make()
    worker = opened
    opened.onmessage = (event) => {
      if (event.data === LISTENING) sayAll()
      else for (const listener of listeners) listener(event)
    }
    opened.onerror = () => {
      // Once it listens, an error is one of its work: whoever asked for that is told.
      if (!unsaid) return
      opened.onerror = null
      opened.terminate()
      again = setTimeout(open, AGAIN_AFTER)
    }
  }

  function sayAll(): void {
    for (const [message, transfer = []] of unsaid ?? []) worker.postMessage(message, transfer)
    unsaid = null
  }

  open()
  return {
    postMessage(message, transfer = []) {
      if (unsaid) unsaid.push([message, transfer])
      else worker.postMessage(message, transfer)
    },
    addEventListener: (_type, listener) => void listeners.add(listener as (event: MessageEvent) => void),
    removeEventListener: (_type, listener) => void listeners.delete(listener as (event: MessageEvent) => void),
    terminate() {
      clearTimeout(again)
      worker.terminate()
    },
  }
}
