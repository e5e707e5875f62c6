import { afterEach, beforeEach, expect, jest, test } from '@jest/globals'
import { LISTENING } from '@/workers/protocol'
import { openWorker } from './openWorker'

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

/** Workers as they are made, one after another. */
function makeWorkers() {
  const made: FakeWorker[] = []
  class FakeWorker {
    onmessage: ((event: { data: unknown }) => void) | null = null
    onerror: (() => void) | null = null
    readonly heard: unknown[] = []
    isOver = false
    constructor() {
      made.push(this)
    }
    postMessage(message: unknown) {
      this.heard.push(message)
    }
    terminate() {
      this.isOver = true
    }
  }
  return { made, make: () => new FakeWorker() as unknown as Worker }
}

test('what is said before a worker listens waits for it, in its order', () => {
  const { made, make } = makeWorkers()
  const worker = openWorker(make)
  worker.postMessage('first')
  worker.postMessage('second')
  expect(made[0]!.heard).toEqual([])
  made[0]!.onmessage!({ data: LISTENING })
  worker.postMessage('third')
  expect(made[0]!.heard).toEqual(['first', 'second', 'third'])
})

test('a worker whose code can not be had is made again, and is told all; one that listens is not', () => {
  const { made, make } = makeWorkers()
  const worker = openWorker(make)
  const answers: unknown[] = []
  worker.addEventListener('message', (event) => answers.push((event as MessageEvent).data))
  worker.postMessage('first')
  made[0]!.onerror!()
  expect(made[0]!.isOver).toBe(true)
  jest.advanceTimersByTime(1000)
  expect(made).toHaveLength(2)
  made[1]!.onmessage!({ data: LISTENING })
  made[1]!.onmessage!({ data: 'an answer' })
  made[1]!.onerror!()
  jest.advanceTimersByTime(1000)
  expect(made).toHaveLength(2)
  expect([made[1]!.heard, answers]).toEqual([['first'], ['an answer']])
})

test('a worker that is ended while its code can not be had is not made again', () => {
  const { made, make } = makeWorkers()
  const worker = openWorker(make)
  made[0]!.onerror!()
  worker.terminate()
  jest.advanceTimersByTime(1000)
  expect(made).toHaveLength(1)
})
