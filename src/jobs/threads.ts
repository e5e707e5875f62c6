import { Worker } from 'node:worker_threads'
import type { Language } from '@/messages/languages'
import { UserError } from '@/core/userError'
import { language, say } from '@/messages/say'
import { WorkFailed, type Reason } from './explain'
import { WORK, type Work, type WorkName } from './work'
import type { WorkOptions } from './workOptions'

/**
 * Work that takes long is done in threads, so that the worker's own loop is always free: for locks, for progress, for
 * breaking off. A thread that has nothing to do waits a while for more.
 */

/** What a thread is told, and what it answers. */
export type Order = { name: WorkName; input: unknown; language: Language } | { abort: true } | { areYouThere: true }
export type Answer = { iAmHere: true } | { progress: number } | { done: unknown } | { failed: Reason }

const IDLE = 30_000 // ms
/** One that was told to break off, and does not, is ended. */
const BREAKING_OFF = 3000
const ASK = 5000
/** What a thread may take before it is ended. */
export interface ThreadLimits {
  /** Foreign bytes whose reader's own loop does not come round for so long (ms) have got it stuck: nothing that people bring takes that. */
  stuckAfter: number
  /** In MiB; what lies outside of it (samples, pictures) does not count. */
  heap: number
}
const USUAL_LIMITS: ThreadLimits = { stuckAfter: 120_000, heap: 2048 }
/** What reckons with what was read can be long between two answers, in a long lesson on a slow machine, and ends. */
const READS_FOREIGN: readonly WorkName[] = ['import', 'open']

let file: string | null = null
let limits = USUAL_LIMITS
const idle: Worker[] = []

/** From now on work is done in threads that run this file (`thread.ts`, built); before, in the caller's own. */
export function workInThreads(path: string | null, own: ThreadLimits = USUAL_LIMITS): void {
  file = path
  limits = own
  // Those that rest were made for what held before.
  for (const thread of idle.splice(0)) void thread.terminate()
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
  const abort = () => {
    thread.postMessage({ abort: true } satisfies Order)
    setTimeout(() => isUnderWay && void thread.terminate(), BREAKING_OFF)
  }
  signal?.addEventListener('abort', abort, { once: true })
  const mayGetStuck = READS_FOREIGN.includes(name)
  let isUnderWay = true
  let forget: () => unknown = () => {}
  try {
    const result = await new Promise((resolve, reject) => {
      let heard = Date.now()
      const asking = setInterval(() => {
        if (mayGetStuck && Date.now() - heard > limits.stuckAfter) reject(new UserError(say('server.stuck')))
        thread.postMessage({ areYouThere: true } satisfies Order)
      }, ASK)
      const onAnswer = (answer: Answer) => {
        heard = Date.now()
        if ('iAmHere' in answer) return
        if ('progress' in answer) onProgress?.(answer.progress)
        else if ('done' in answer) resolve(answer.done)
        else reject(new WorkFailed(answer.failed))
      }
      const onExit = () => reject(new Error('a thread ended in the middle of its work'))
      const onError = (error: Error & { code?: string }) =>
        reject(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new UserError(say('server.tooMuchMemory')) : error)
      thread.on('message', onAnswer).on('error', onError).on('exit', onExit)
      forget = () => {
        clearInterval(asking)
        thread.off('message', onAnswer).off('error', onError).off('exit', onExit)
      }
      thread.postMessage({ name, input, language: language() } satisfies Order)
    })
    rest(thread)
    return result as Work[N]['result']
  } catch (error) {
    // One whose work failed may have been left in the middle of something.
    void thread.terminate()
    signal?.throwIfAborted()
    throw error
  } finally {
    isUnderWay = false
    forget()
    signal?.removeEventListener('abort', abort)
  }
}

function newThread(path: string): Worker {
  const thread = new Worker(path, { env: { ...process.env }, resourceLimits: { maxOldGenerationSizeMb: limits.heap } })
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
