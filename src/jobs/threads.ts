import { Worker } from 'node:worker_threads'
import type { Language } from '@/messages/languages'
import { language } from '@/messages/say'
import { WorkFailed, type Reason } from './explain'
import { WORK, type Work, type WorkName } from './work'
import type { WorkOptions } from './workOptions'

/**
 * Work that takes long is done in threads, so that the worker's own loop is always free: for locks, for progress, for
 * breaking off. A thread that has nothing to do waits a while for more.
 */

/** What a thread is told, and what it answers. */
export type Order = { name: WorkName; input: unknown; language: Language } | { abort: true }
export type Answer = { progress: number } | { done: unknown } | { failed: Reason }

const IDLE = 30_000 // ms

let file: string | null = null
const idle: Worker[] = []

/** From now on work is done in threads that run this file (`thread.ts`, built); before, in the caller's own. */
export function workInThreads(path: string | null): void {
  file = path
}

/** Throws a UserError with the sentence for whoever asked, where it could not be done. */
export function doWork<N extends WorkName>(
  name: N,
  input: Work[N]['input'],
  options: WorkOptions = {},
): Promise<Work[N]['result']> {
  return file ? inThread(file, name, input, options) : WORK[name](input, options)
}

async function inThread<N extends WorkName>(
  path: string,
  name: N,
  input: Work[N]['input'],
  { signal, onProgress }: WorkOptions,
): Promise<Work[N]['result']> {
  signal?.throwIfAborted()
  const thread = idle.pop() ?? newThread(path)
  thread.ref()
  const abort = () => thread.postMessage({ abort: true } satisfies Order)
  signal?.addEventListener('abort', abort, { once: true })
  let forget: () => unknown = () => {}
  try {
    const result = await new Promise((resolve, reject) => {
      const onAnswer = (answer: Answer) => {
        if ('progress' in answer) onProgress?.(answer.progress)
        else if ('done' in answer) resolve(answer.done)
        else reject(new WorkFailed(answer.failed))
      }
      const onExit = () => reject(new Error('a thread ended in the middle of its work'))
      thread.on('message', onAnswer).on('error', reject).on('exit', onExit)
      forget = () => thread.off('message', onAnswer).off('error', reject).off('exit', onExit)
      thread.postMessage({ name, input, language: language() } satisfies Order)
    })
    forget()
    rest(thread)
    return result as Work[N]['result']
  } catch (error) {
    // One whose work failed may have been left in the middle of something.
    void thread.terminate()
    signal?.throwIfAborted()
    throw error
  } finally {
    signal?.removeEventListener('abort', abort)
  }
}

function newThread(path: string): Worker {
  const thread = new Worker(path, { env: { ...process.env } })
  // Who waits for its work is told; one that rests is only not there any more.
  thread.on('error', (error) => console.error(error))
  thread.on('exit', () => forgetIdle(thread))
  return thread
}

/** False where it was at work. */
function forgetIdle(thread: Worker): boolean {
  const at = idle.indexOf(thread)
  if (at >= 0) idle.splice(at, 1)
  return at >= 0
}

function rest(thread: Worker): void {
  thread.unref()
  idle.push(thread)
  setTimeout(() => {
    if (forgetIdle(thread)) void thread.terminate()
  }, IDLE).unref()
}
